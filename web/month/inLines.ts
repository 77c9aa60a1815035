/** What stands beside a bar on a phone before the picture cuts it off, in letters. */
const LINE = 20;

/** A name in lines that fit beside its bar. */
export const inLines = (name: string): string[] => {
  const lines: string[] = [];
  for (const word of name.split(' ')) {
    const last = lines.at(-1);
    if (last !== undefined && `${last} ${word}`.length <= LINE)
      lines.splice(-1, 1, `${last} ${word}`);
    else lines.push(word);
  }
  return lines;
};

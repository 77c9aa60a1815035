/** A reader that hangs, eats memory, fails, or does as it should. */
export default (how) => {
  if (how === 'hang') for (;;);
  if (how === 'eat') {
    const eaten = [];
    for (;;) eaten.push(new Array(1e6).fill(eaten.length));
  }
  if (how === 'fail') throw new Error('a fault of its own');
  return `read ${how}`;
};

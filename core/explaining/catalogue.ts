import type { CatalogueFault, Contradiction } from '../quoting/index.ts';
import { wholeNumber } from '../units/index.ts';
import type { Explanation } from './words.ts';
import { list } from './words.ts';

/** What is wrong with a row of a catalogue table. */
export function explainCatalogueFault(fault: CatalogueFault): Explanation {
  switch (fault.type) {
    case 'column-missing':
      return {
        title: `The table has no column “${fault.column}”`,
        why: 'Without it no row can be read.',
        mend: 'Put the names of the columns into the first row; a catalogue saved as CSV shows them.',
      };
    case 'label':
      return {
        title: `Row ${fault.row}: “${fault.text}” is no module label`,
        why: 'A label has to say size, generation and speed.',
        mend: 'Write it as on the sticker: 8GB 1Rx8 PC4-2666V-UA2-11, the part number last.',
      };
    case 'number':
      return {
        title: `Row ${fault.row}: “${fault.text}” under ${fault.column}`,
        why: `Wanted is ${fault.wanted}.`,
        mend: 'Correct the cell, or leave it empty where it is not known.',
      };
    case 'too-many':
      return {
        title: `Only the first ${wholeNumber(fault.limit)} rows are read`,
        why: 'One import takes no more.',
        mend: 'Split the table.',
      };
  }
}

/** One part number that means different modules. */
export function explainContradiction({ part, rows }: Contradiction): Explanation {
  return {
    title: `${part} means different modules in rows ${list(rows.slice(0, 6).map(String))}`,
    why: 'One part number is one part; plans would take the two for a matched pair.',
    mend: 'Correct the label that is wrong, or add the revision to the number.',
  };
}

import { readWithParts } from '#core/reconciling';
import { answering } from './answering.ts';

// Documents are answered one by one, so that a page shows the first while the hundredth is read.
answering(readWithParts);

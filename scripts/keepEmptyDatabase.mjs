// Part of the build: an empty database, so that no start has to make one.
import { emptyDatabase } from '../server/store/emptyDatabase.ts';

await emptyDatabase();

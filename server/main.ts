import { runServer } from './runServer.ts';
import { placeFromEnvironment } from './settings.ts';

await runServer(placeFromEnvironment(), ({ url }) => `Tembrix answers at ${url}`);

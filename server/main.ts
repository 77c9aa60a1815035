import { runServer } from './runServer.ts';
import { placeFromEnvironment, settingsText } from './settings.ts';

await runServer(
  placeFromEnvironment(),
  ({ url }) => `${settingsText(process.env)}\nTembrix answers at ${url}`,
);

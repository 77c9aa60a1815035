import { cpSync, mkdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Plugin } from 'vite';

/** Where the general reader of photos lies in the built interface; fetched when first needed. */
export const READING_FOLDER = 'assets/reading';

/**
 * Lays the reader's own worker, its engine and its model beside the built scripts, under names that do
 * not change: the reader chooses the engine by what the browser can do, and asks for it by name.
 */
export function photoReading(): Plugin {
  const require = createRequire(import.meta.url);
  return {
    name: 'photo-reading',
    apply: 'build',
    writeBundle({ dir = '' }) {
      const folder = join(dir, READING_FOLDER);
      mkdirSync(folder, { recursive: true });
      const core = dirname(require.resolve('tesseract.js-core/package.json'));
      const copies = [
        require.resolve('tesseract.js/dist/worker.min.js'),
        ...['', '-simd', '-relaxedsimd'].map((kind) =>
          join(core, `tesseract-core${kind}-lstm.wasm.js`),
        ),
        join(
          dirname(require.resolve('@tesseract.js-data/eng/package.json')),
          '4.0.0_best_int/eng.traineddata.gz',
        ),
      ];
      for (const file of copies) cpSync(file, join(folder, file.split(/[\\/]/).at(-1) ?? ''));
    },
  };
}

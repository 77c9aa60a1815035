import { readFile } from 'node:fs/promises';
import type { Plugin } from 'vite';
import assembler from 'wabt';

/** Assembles WebAssembly text; the module's bytes come as base64, so that one file holds all. */
export function watPlugin(): Plugin {
  return {
    name: 'wat',
    async load(id) {
      if (!id.endsWith('.wat')) return undefined;
      const assembly = await assembler();
      const parsed = assembly.parseWat(id, await readFile(id, 'utf8'), { simd: true });
      parsed.validate();
      const { buffer } = parsed.toBinary({});
      return `export default ${JSON.stringify(Buffer.from(buffer).toString('base64'))};`;
    },
  };
}

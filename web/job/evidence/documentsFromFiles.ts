import { EVIDENCE_LIMIT } from '#contract/evidence';
import type { EvidenceInput } from '#contract/evidence';
import { base64FromBytes } from '../../ui/base64.ts';

/** As many documents as go into one request. */
const AT_ONCE = 50;

/** Files as evidence, in portions; what is too large to be an inventory stays behind, by name. */
export async function documentsFromFiles(
  files: readonly File[],
): Promise<{ portions: EvidenceInput[][]; refused: string[] }> {
  const fitting = files.filter(({ size }) => size <= EVIDENCE_LIMIT);
  const documents = await Promise.all(
    fitting.map(async (file): Promise<EvidenceInput> => ({
      ...{ kind: 'file', name: file.name.slice(0, 200) || 'file', slotIds: [] },
      base64: base64FromBytes(new Uint8Array(await file.arrayBuffer())),
    })),
  );
  const portions: EvidenceInput[][] = [];
  let weight = 0;
  for (const document of documents) {
    const portion = portions.at(-1);
    weight += document.base64.length;
    // Far below what a request may carry, so that a slow link shows something soon.
    if (!portion || portion.length >= AT_ONCE || weight > 4 * EVIDENCE_LIMIT) {
      portions.push([document]);
      weight = document.base64.length;
    } else portion.push(document);
  }
  const refused = files.filter(({ size }) => size > EVIDENCE_LIMIT).map(({ name }) => name);
  return { portions, refused };
}

import { bytesToHex } from '@noble/hashes/utils.js';
import { decodeText } from '../decodeText.ts';
import {
  COLLECTED_FACTS,
  COLLECTED_FORMAT,
  COLLECTED_VERSION,
  digestOf,
  linesOfFacts,
} from './format.ts';
import type { Collected, CollectedPart } from './readCollected.ts';

/** Parts that are text in themselves. */
const isText = ({ kind }: CollectedPart) =>
  kind === 'memory-instances' || kind === 'hardware-report';

/** A collected file as the scripts write it, for made-up machines. */
export function writeCollected(collected: Collected): string {
  const { shell, collectedAt, parts, facts, notRead } = collected;
  return `${JSON.stringify(
    {
      ...{ format: COLLECTED_FORMAT, version: COLLECTED_VERSION, shell, collectedAt },
      parts: parts.map((part) => {
        const content = isText(part) ? decodeText(part.bytes) : bytesToHex(part.bytes);
        return {
          ...{ kind: part.kind, from: part.from },
          ...(isText(part) ? { text: content } : { hex: content }),
          sha256: digestOf(content),
        };
      }),
      facts: facts.map((one) => ({ ...one, unit: COLLECTED_FACTS[one.name] })),
      factsSha256: digestOf(linesOfFacts(facts)),
      notRead,
    },
    undefined,
    2,
  )}\n`;
}

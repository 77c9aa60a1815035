import type { MakerRecord } from '#contract/evidence';
import { gb, list, volts } from '#core/explaining';
import { makerKey } from '#core/inventory';
import type { MakerCode, SpdImage } from '#core/inventory';
import { profileSummary } from '#core/memory';
import type { MemoryModule } from '#core/memory';

const nanoseconds = (ps: number) => Number((ps / 1000).toFixed(3));

/** All that one SPD image states, as the standards name it. */
export function ImageFacts({
  image,
  makers,
}: {
  readonly image: SpdImage;
  readonly makers: readonly MakerRecord[];
}) {
  const nameOf = (code: MakerCode) => {
    const key = makerKey(code);
    const known = makers.find((one) => one.key === key);
    return known ? `${known.name} (${key})` : `code ${key}`;
  };
  const { times, made } = image;
  const width =
    image.busWidth === undefined ? undefined : `${image.busWidth} + ${image.eccWidth} ECC`;
  const facts: readonly (readonly [string, string | undefined])[] = [
    ['kind', `${image.generation} ${image.formFactor ?? ''} ${image.buffering ?? ''}`],
    ['size', image.capacity === undefined ? undefined : gb(image.capacity)],
    [
      'ranks × chip width',
      `${image.ranks ?? '?'} × ${image.chipWidth ?? '?'}${image.asymmetric ? ', unlike ranks' : ''}`,
    ],
    ['bus, bits', width],
    ['rate', image.rate === undefined ? undefined : `${image.rate} MT/s`],
    ['CLs', image.supportedCls.join(' ') || undefined],
    [
      'times, ns',
      Object.entries(times)
        .flatMap(([name, ps]) => (ps === undefined ? [] : [`${name} ${nanoseconds(ps)}`]))
        .join(' · '),
    ],
    ['voltage', image.voltagesMv.length > 0 ? volts(image.voltagesMv) : undefined],
    ['maker', image.maker && nameOf(image.maker)],
    ['chips by', image.dramMaker && nameOf(image.dramMaker)],
    [
      'part',
      [image.partNumber, image.partRevision && `revision ${image.partRevision}`]
        .filter(Boolean)
        .join(', '),
    ],
    ['serial', image.serial],
    ['made', made && `week ${made.week} of ${made.year}`],
    ...image.profiles.map(
      (profile, at) =>
        [
          `overclock profile ${at + 1}`,
          profileSummary({ profile } as MemoryModule)?.replace('profile ', ''),
        ] as const,
    ),
    ['checksums', list(image.checksums.map(({ block, state }) => `${block} ${state}`))],
  ];
  return (
    <dl className="my-2 ml-8 grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 text-aside">
      {facts.map(
        ([name, value]) =>
          value && (
            <div key={name} className="contents">
              <dt className="text-muted">{name}</dt>
              <dd className="figure min-w-0 break-words">{value}</dd>
            </div>
          ),
      )}
    </dl>
  );
}

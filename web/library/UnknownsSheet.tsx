import { explainUnknownTrait } from '#core/explaining';
import { unknownTraits } from '#core/machine';
import type { Machine, UnknownTrait } from '#core/machine';

const WEIGHT_WORDS: Readonly<Record<UnknownTrait['weight'], string>> = {
  3: 'can cost money or stop a plan',
  2: 'changes what runs',
  1: 'changes a caution',
};

/** What nobody knows of a machine yet, by how much a plan hangs on it, and where to find it. */
export function UnknownsSheet({ machine }: { readonly machine: Machine }) {
  const unknown = unknownTraits(machine);
  return (
    <section className="sheet">
      <h2 className="mb-2 font-bold">
        Not known{' '}
        <span className="ml-1 text-aside font-normal text-muted">the most telling first</span>
      </h2>
      {unknown.length === 0 && <p className="text-muted">Everything that matters is known.</p>}
      {([3, 2, 1] as const).map((weight) => {
        const own = unknown.filter((one) => one.weight === weight);
        return (
          own.length > 0 && (
            <div key={weight} className="border-t border-line py-2 first-of-type:border-0">
              <h3 className="text-aside text-muted">{WEIGHT_WORDS[weight]}</h3>
              <ul className="mt-1 grid gap-1.5">
                {own.map((one) => {
                  const { title, why, mend } = explainUnknownTrait(one);
                  return (
                    <li key={one.trait}>
                      <p className="font-bold">{title}</p>
                      <p className="text-aside">
                        {why} <span className="text-muted">{mend}</span>
                      </p>
                    </li>
                  );
                })}
              </ul>
            </div>
          )
        );
      })}
    </section>
  );
}

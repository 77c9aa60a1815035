import type { ListedMachine, MachineRecord, ModuleRecord } from '#contract/records';
import { FORM_FACTORS, GENERATIONS, generationName } from '#core/memory';
import { blockersAlone } from '#core/planning';
import { Combobox } from '../ui/Combobox.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { machineChoices } from '../ui/machineChoices.ts';

/** What is to be seen of the catalogue; empty = no matter. */
export interface CatalogueFilter {
  readonly text: string;
  readonly generation: string;
  readonly formFactor: string;
  readonly capacity: string;
  readonly machineId: string;
  readonly offer: '' | 'for sale' | 'in stock' | 'packs' | 'ECC' | 'profile';
}

export const NO_FILTER: CatalogueFilter = {
  ...{ text: '', generation: '', formFactor: '', capacity: '', machineId: '', offer: '' },
};

/** Whether an entry is to be seen. */
export function passes(
  { label, supplier, article, module, price, stock, units }: ModuleRecord,
  filter: CatalogueFilter,
  machine: MachineRecord | undefined,
): boolean {
  const text = filter.text.trim().toLowerCase();
  const offers = {
    '': true,
    'for sale': price !== null,
    'in stock': price !== null && stock !== 0,
    packs: units > 1,
    ECC: module.ecc,
    profile: module.profile !== undefined,
  };
  return (
    (text === '' || `${label} ${supplier} ${article}`.toLowerCase().includes(text)) &&
    (filter.generation === '' || generationName(module) === filter.generation) &&
    (filter.formFactor === '' || module.formFactor === filter.formFactor) &&
    (filter.capacity === '' || String(module.capacity) === filter.capacity) &&
    offers[filter.offer] &&
    (!machine || blockersAlone(machine.machine, module).length === 0)
  );
}

interface CatalogueFiltersProps {
  readonly filter: CatalogueFilter;
  readonly modules: readonly ModuleRecord[];
  readonly machines: readonly ListedMachine[];
  readonly onChange: (filter: CatalogueFilter) => void;
}

const any = ['', 'any'] as const;

/** Filters by everything that decides whether a module fits. */
export function CatalogueFilters({ filter, modules, machines, onChange }: CatalogueFiltersProps) {
  const set = (part: Partial<CatalogueFilter>) => onChange({ ...filter, ...part });
  const generations = [...GENERATIONS.slice(0, 2), 'DDR3L', ...GENERATIONS.slice(2)];
  const present = new Set(modules.map(({ module }) => generationName(module)));
  const sizes = [...new Set(modules.map(({ module }) => Number(module.capacity)))].sort(
    (a, b) => a - b,
  );
  return (
    <div
      role="search"
      className="grid gap-3 border-b border-line p-3 sm:grid-cols-3 lg:grid-cols-[2fr_1fr_1fr_1fr_1fr_2fr]"
    >
      <TextField
        label="Label, supplier or article"
        value={filter.text}
        onChange={({ target }) => set({ text: target.value })}
      />
      <SelectField
        label="Generation"
        value={filter.generation}
        options={[
          any,
          ...generations.filter((one) => present.has(one)).map((one) => [one, one] as const),
        ]}
        onChange={({ target }) => set({ generation: target.value })}
      />
      <SelectField
        label="Form"
        value={filter.formFactor}
        options={[
          any,
          ...FORM_FACTORS.filter((one) => one !== 'soldered').map((one) => [one, one] as const),
        ]}
        onChange={({ target }) => set({ formFactor: target.value })}
      />
      <SelectField
        label="Size"
        value={filter.capacity}
        options={[any, ...sizes.map((one) => [String(one), `${one} GB`] as const)]}
        onChange={({ target }) => set({ capacity: target.value })}
      />
      <SelectField
        label="Only"
        value={filter.offer}
        options={[
          any,
          ...(['for sale', 'in stock', 'packs', 'ECC', 'profile'] as const).map(
            (one) => [one, one] as const,
          ),
        ]}
        onChange={({ target }) => set({ offer: target.value as CatalogueFilter['offer'] })}
      />
      <Combobox
        label="Fits"
        placeholder="any machine"
        value={filter.machineId}
        choices={machineChoices(machines)}
        onChange={(machineId) => set({ machineId })}
      />
    </div>
  );
}

import type { ListedMachine, ModuleRecord } from '#contract/records';
import { amountField, money } from '#core/explaining';
import { Button } from '../ui/Button.tsx';
import { Combobox } from '../ui/Combobox.tsx';
import { TextField } from '../ui/Field.tsx';
import { FilePick } from '../ui/FilePick.tsx';
import { machineChoices } from '../ui/machineChoices.ts';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { LabelPhoto } from '../visuals/LabelPhoto.tsx';
import { LabelReport } from '../visuals/LabelReport.tsx';
import { useModuleForm } from './useModuleForm.ts';
import type { ModuleFormState, OfferForm } from './useModuleForm.ts';

interface ModuleFormProps {
  readonly edited: ModuleRecord | undefined;
  readonly currency: string;
  readonly machines: readonly ListedMachine[];
  readonly onDone: () => void;
}

/** A module by its label or its EEPROM image, and how it can be had. */
export function ModuleForm({ edited, currency, machines, onDone }: ModuleFormProps) {
  const form = useModuleForm({ edited, currency, onDone });
  const { label, image, creating, changing, removing } = form;
  return (
    <form noValidate onSubmit={form.submit} className="sheet mb-4">
      <div className="flex flex-wrap items-start gap-3">
        <div className="min-w-72 grow">
          <TextField
            label={edited ? 'Correct the label' : 'Add a module by its label'}
            spellCheck={false}
            value={label}
            error={form.isIncomplete ? 'The label is incomplete; see below.' : undefined}
            onChange={({ target }) => form.type(target.value)}
          />
          <LabelPhoto hints={{}} onLabel={form.type} />
          <div className="text-aside">
            <FilePick
              label="Read its EEPROM image"
              accept=".spd,.bin,.hex,.txt"
              onFile={(file) => void form.readImage(file)}
            />
          </div>
        </div>
        <Button type="submit" look="main" className="mt-7">
          {edited ? 'Save the correction' : 'Add'}
        </Button>
        {edited && (
          <Button className="mt-7" onClick={form.finish}>
            Leave as it was
          </Button>
        )}
        {edited && (
          <Button look="quiet" className="mt-7" onClick={form.remove}>
            delete it from the catalogue
          </Button>
        )}
      </div>
      {image && (
        <p className="mt-2 text-aside" role="status">
          {image.module
            ? `${image.name}: read in full; its own times count, not the label’s.`
            : `${image.name} is no image of a module. Nothing was changed.`}
        </p>
      )}
      {(label !== '' || form.isAsked) && (
        <>
          <div className="mt-2" aria-live="polite">
            <LabelReport reading={form.reading} />
          </div>
          <OfferFields form={form} currency={currency} />
          <ProvenIn form={form} machines={machines} />
        </>
      )}
      <SaveNotice state={creating.state} />
      <SaveNotice state={removing.state} />
      <SaveNotice
        state={changing.state}
        sides={(yours, theirs) => [
          ['Label', (yours as ModuleRecord).label, (theirs as ModuleRecord).label],
        ]}
        onKeepMine={(theirs) => form.send((theirs as ModuleRecord).version)}
        onTakeTheirs={form.finish}
      />
    </form>
  );
}

interface PartProps {
  readonly form: ModuleFormState;
}

/** Who sells it, in which pack, for how much, and what the shop's margin would make of it. */
function OfferFields({ form, currency }: PartProps & { readonly currency: string }) {
  const { made } = form;
  const field = (name: Exclude<keyof OfferForm, 'verifiedOn'>, text: string, hint?: string) => (
    <TextField
      label={text}
      hint={hint}
      value={form.offer[name]}
      maxLength={80}
      error={form.faults[name]}
      onChange={({ target }) => form.set({ [name]: target.value })}
    />
  );
  return (
    <>
      <div className="mt-3 grid gap-3 sm:grid-cols-3 lg:grid-cols-7">
        {field('supplier', 'Supplier')}
        {field('article', 'Their article')}
        {field('units', 'Modules in pack')}
        {field('price', `Price, ${currency}`, 'of the pack, tax included; empty = not for sale')}
        {field('cost', `Cost, ${currency}`, 'of the pack, without tax; empty = not known')}
        {field('stock', 'Packs in stock', 'empty = not known')}
        {field('leadDays', 'Days to arrive', 'empty = not known')}
      </div>
      {made !== null && (
        <p className="mt-2 text-aside">
          By the shop’s margin it would be sold for {money(made, currency)}.{' '}
          <Button look="quiet" onClick={() => form.set({ price: amountField(made, currency) })}>
            Take that price
          </Button>
        </p>
      )}
    </>
  );
}

function ProvenIn({ form, machines }: PartProps & { readonly machines: readonly ListedMachine[] }) {
  const { verifiedOn } = form.offer;
  return (
    <>
      <div className="mt-3 max-w-md">
        <Combobox
          // A machine that was added leaves the field empty for the next.
          key={verifiedOn.length}
          label="Proven by us in"
          placeholder="add a machine"
          value=""
          choices={machineChoices(machines.filter(({ id }) => !verifiedOn.includes(id)))}
          onChange={(id) => id !== '' && form.set({ verifiedOn: [...verifiedOn, id] })}
        />
      </div>
      {verifiedOn.length > 0 && (
        <ul className="mt-1 flex flex-wrap gap-x-4">
          {verifiedOn.map((id) => {
            const name = machines.find((one) => one.id === id)?.machine.name ?? 'a machine';
            return (
              <li key={id} className="flex items-center gap-1 text-aside">
                {name}
                <Button
                  look="quiet"
                  aria-label={`Not proven in ${name}`}
                  onClick={() => form.set({ verifiedOn: verifiedOn.filter((one) => one !== id) })}
                >
                  take back
                </Button>
              </li>
            );
          })}
        </ul>
      )}
    </>
  );
}

import { useState } from 'react';
import { logoApi } from '../app/logoApi.ts';
import { base64FromBytes } from '../ui/base64.ts';
import { Button } from '../ui/Button.tsx';
import { FilePick } from '../ui/FilePick.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { useSave } from '../ui/useSave.ts';

/** The shop's sign, at the head of quotes and reports. */
export function LogoPart({ hasLogo }: { readonly hasLogo: boolean }) {
  const [turn, setTurn] = useState(0);
  const [saveLogo] = logoApi.useSaveLogoMutation();
  const [removeLogo] = logoApi.useRemoveLogoMutation();
  const saving = useSave(saveLogo, () => setTurn(turn + 1));
  const removing = useSave(removeLogo);
  const take = async (file: File) =>
    saving.save({ base64: base64FromBytes(new Uint8Array(await file.arrayBuffer())) });
  return (
    <section className="sheet mt-4 grid gap-3" aria-label="Sign of the shop">
      <h2 className="font-bold">Sign of the shop</h2>
      <p>A small picture at the head of quotes and reports: JPEG or PNG, 500 kB at most.</p>
      {hasLogo && (
        <img
          src={`/api/shop/logo?turn=${turn}`}
          alt="The shop’s sign as it is printed"
          className="max-h-16 max-w-60 self-start justify-self-start rounded bg-white p-1"
        />
      )}
      <div className="flex flex-wrap items-center gap-4">
        <FilePick
          label={hasLogo ? 'Choose another' : 'Choose a picture'}
          accept="image/png,image/jpeg"
          onFile={(file) => void take(file)}
        />
        {hasLogo && (
          <Button look="quiet" onClick={() => void removing.save()}>
            Take it away
          </Button>
        )}
      </div>
      <SaveNotice state={saving.state} />
      <SaveNotice state={removing.state} />
    </section>
  );
}

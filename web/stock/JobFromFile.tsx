import { useNavigate } from 'react-router';
import { api } from '../app/api.ts';
import { base64FromBytes } from '../ui/base64.ts';
import { FilePick } from '../ui/FilePick.tsx';
import { SaveNotice } from '../ui/SaveNotice.tsx';
import { useSave } from '../ui/useSave.ts';

/** Takes in a job that another bench saved in a file, and opens it. */
export function JobFromFile() {
  const navigate = useNavigate();
  const [take] = api.useImportJobMutation();
  const taking = useSave(take, (job) => void navigate(`/jobs/${job.id}/intake`));
  const read = async (file: File) => {
    const base64 = base64FromBytes(new Uint8Array(await file.arrayBuffer()));
    await taking.save({ body: { base64 } });
  };
  return (
    <section className="sheet mt-4 grid gap-2" aria-label="A job from another bench">
      <h2 className="font-bold">A job from another bench</h2>
      <p>
        Saved there under Intake › History. It comes in with its customer, machine, files and runs,
        under the next number here.
      </p>
      <SaveNotice state={taking.state} />
      <FilePick
        label="Choose the file"
        accept=".gz,application/gzip"
        onFile={(file) => void read(file)}
      />
    </section>
  );
}

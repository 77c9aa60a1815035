interface FilePickProps {
  readonly label: string;
  readonly accept: string;
  readonly onFile: (file: File) => void;
}

/** What a table of text may be called. */
export const TABLES = '.csv,.tsv,.txt,text/csv,text/plain';

/** Chooses one file. The same file can be chosen again: it may have been mended meanwhile. */
export function FilePick({ label, accept, onFile }: FilePickProps) {
  return (
    <label className="link inline-flex min-h-10 cursor-pointer items-center font-bold focus-within:rounded focus-within:outline-3 focus-within:outline-copper">
      {label}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          if (file) onFile(file);
          target.value = '';
        }}
      />
    </label>
  );
}

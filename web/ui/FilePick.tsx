interface FilePickProps {
  readonly label: string;
  readonly accept: string;
  /** On a telephone the camera is opened at once. */
  readonly capture?: 'environment';
  readonly onFile: (file: File) => void;
}

/** What a table of text may be called. */
export const TABLES = '.csv,.tsv,.txt,text/csv,text/plain';

/** Chooses one file. The same file can be chosen again: it may have been mended meanwhile. */
export function FilePick({ label, accept, capture, onFile }: FilePickProps) {
  return (
    <label className="link inline-flex min-h-10 justify-self-start cursor-pointer items-center font-bold focus-within:rounded focus-within:outline-3 focus-within:outline-copper">
      {label}
      <input
        type="file"
        accept={accept}
        {...(capture ? { capture } : {})}
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

import { useId, useState } from 'react';
import type { DragEvent, ReactNode } from 'react';

const hasFiles = ({ dataTransfer }: DragEvent) => [...dataTransfer.types].includes('Files');

/** Lets files be dropped on whatever bears the handlers; text dragged about is left alone. */
export function useFileDrop(onFiles: (files: readonly File[]) => void) {
  const [isOver, setOver] = useState(false);
  return {
    isOver,
    handlers: {
      onDragOver: (event: DragEvent) => {
        if (!hasFiles(event)) return;
        event.preventDefault();
        setOver(true);
      },
      onDragLeave: ({ currentTarget, relatedTarget }: DragEvent) => {
        if (!(relatedTarget instanceof Node && currentTarget.contains(relatedTarget)))
          setOver(false);
      },
      onDrop: (event: DragEvent) => {
        setOver(false);
        if (!hasFiles(event) || event.defaultPrevented) return;
        event.preventDefault();
        onFiles([...event.dataTransfer.files]);
      },
    },
  };
}

interface FileDropProps {
  readonly label: string;
  readonly hint: string;
  readonly onFiles: (files: readonly File[]) => void;
  /** Beside the button: what is going on. */
  readonly children?: ReactNode;
}

/** A place to drop any number of files, with a button for whoever cannot drag. */
export function FileDrop({ label, hint, onFiles, children }: FileDropProps) {
  const { isOver, handlers } = useFileDrop(onFiles);
  const inputId = useId();
  return (
    <div
      {...handlers}
      className={`flex flex-wrap items-center gap-x-4 gap-y-2 rounded-md border-2 border-dashed p-3 ${isOver ? 'border-copper bg-copper-wash' : 'border-edge'}`}
    >
      <div className="min-w-56 grow basis-0">
        <label htmlFor={inputId} className="font-bold">
          {label}
        </label>
        <p className="text-aside text-muted">{hint}</p>
      </div>
      <input
        id={inputId}
        type="file"
        multiple
        className="max-w-60 text-aside file:mr-3 file:min-h-10 file:rounded-md file:border file:border-solid file:border-edge file:bg-sheet file:px-4 file:font-bold file:text-ink"
        onChange={({ target }) => {
          const files = [...(target.files ?? [])];
          // The same files can be chosen again: they may have been mended meanwhile.
          target.value = '';
          if (files.length > 0) onFiles(files);
        }}
      />
      {children}
    </div>
  );
}

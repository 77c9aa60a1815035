import { Button } from '../ui/Button.tsx';

/** Does something to the machine. */
export function Do({ text, onDo }: { readonly text: string; readonly onDo: () => void }) {
  return (
    <Button className="px-3 text-aside text-ink" onClick={onDo}>
      {text}
    </Button>
  );
}

import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import type { ReactNode } from 'react';
import type { Explanation } from '#core/explaining';

interface Reasons {
  readonly title: string;
  readonly reasons: readonly Explanation[];
}

interface WhyState {
  readonly shown: Reasons | undefined;
  readonly show: (reasons: Reasons) => void;
  readonly close: () => void;
}

const WhyContext = createContext<WhyState | undefined>(undefined);

/** Lets any figure below open its reasons in the page's {@link WhyPanel}. */
export function WhyProvider({ children }: { readonly children: ReactNode }) {
  const [shown, setShown] = useState<Reasons>();
  const opener = useRef<Element | null>(null);
  const show = useCallback((reasons: Reasons) => {
    opener.current = document.activeElement;
    setShown(reasons);
  }, []);
  const close = useCallback(() => {
    setShown(undefined);
    if (opener.current instanceof HTMLElement) opener.current.focus();
  }, []);
  const state = useMemo(() => ({ shown, show, close }), [shown, show, close]);
  return <WhyContext value={state}>{children}</WhyContext>;
}

function useWhy(): WhyState {
  const state = useContext(WhyContext);
  if (!state) throw new Error('expected a WhyProvider above');
  return state;
}

interface WhyLinkProps extends Reasons {
  readonly children?: ReactNode;
}

/** Opens the reasons of the figure or verdict it stands beside. */
export function WhyLink({ title, reasons, children = 'why' }: WhyLinkProps) {
  const { show } = useWhy();
  return (
    <button
      type="button"
      className="link min-h-6 shrink-0 text-aside font-bold"
      aria-label={`why: ${title}`}
      onClick={() => show({ title, reasons })}
    >
      {children}
    </button>
  );
}

/** The reasons asked for last, in the page's right column. Esc closes; focus goes back. */
export function WhyPanel() {
  const { shown, close } = useWhy();
  const panel = useRef<HTMLElement>(null);
  useEffect(() => void panel.current?.focus(), [shown]);
  if (!shown) return null;
  return (
    // Escape reaches here from the buttons inside, and from the panel itself, which takes focus.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <section
      ref={panel}
      tabIndex={-1}
      aria-label={`Why: ${shown.title}`}
      className="sheet border-l-4 border-l-copper"
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        close();
      }}
    >
      <div className="flex items-start gap-2">
        <h2 className="grow font-bold">Why: {shown.title}</h2>
        <button type="button" className="link min-h-6 text-aside font-bold" onClick={close}>
          close
        </button>
      </div>
      {shown.reasons.map(({ title, why, mend, source }) => (
        <div
          key={title}
          className="mt-3 border-t border-line pt-3 text-aside first-of-type:border-0"
        >
          <p className="text-body font-bold break-words">{title}</p>
          <p className="mt-1 break-words">{why}</p>
          {mend && (
            <p className="mt-1 break-words">
              <b>What would change it:</b> {mend}
            </p>
          )}
          {source && <p className="mt-1 text-muted">Rule: {source}</p>}
        </div>
      ))}
    </section>
  );
}

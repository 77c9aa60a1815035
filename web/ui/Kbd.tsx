/** A key as printed on a keyboard; decoration for those who hear the page. */
export function Kbd({ keys, onBar = false }: { readonly keys: string; readonly onBar?: boolean }) {
  return (
    <kbd
      aria-hidden
      className={`figure ml-1 pointer-coarse:hidden rounded border px-1.5 py-0.5 text-[0.75rem] whitespace-nowrap ${onBar ? 'border-[#5a686a]' : 'border-current opacity-80'}`}
    >
      {keys}
    </kbd>
  );
}

import { useTechnician } from '../../ui/useTechnician.ts';

/** Who ticks at this browser. */
export function Signed() {
  const [name, rename] = useTechnician();
  return (
    <label className="ml-auto flex items-center gap-2 text-aside">
      <span className="text-muted">signed</span>
      <input
        className="input w-36!"
        placeholder="your name"
        value={name}
        maxLength={60}
        onChange={({ target }) => rename(target.value)}
      />
    </label>
  );
}

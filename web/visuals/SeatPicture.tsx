import type { Machine, SlotId } from '#core/machine';
import { generationTraits } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { gb } from '#core/explaining';

interface SeatPictureProps {
  readonly machine: Machine;
  readonly slotId: SlotId;
  readonly module: MemoryModule;
  readonly isOut: boolean;
}

/** A module before its slot: latches or arms, the notch, the angle, and where to press. */
export function SeatPicture({ machine, slotId, module, isOut }: SeatPictureProps) {
  const slot = machine.slots.find(({ id }) => id === slotId);
  const name = slot?.printedName ?? slotId;
  // The drawing is no gauge; the ridge in the slot decides.
  const { notchAt } = generationTraits(module.generation);
  const notch = (module.formFactor === 'SODIMM' ? notchAt.SODIMM : notchAt.DIMM) ?? 0.5;
  const words = isOut
    ? `${gb(module.capacity)} comes out of ${name}`
    : `${gb(module.capacity)} goes into ${name}`;
  return (
    <svg viewBox="0 0 320 120" role="img" aria-label={words} className="w-full max-w-2xl">
      {module.formFactor === 'compression' ? (
        <Compression isOut={isOut} />
      ) : module.formFactor === 'SODIMM' ? (
        <Slanted notch={notch} isOut={isOut} />
      ) : (
        <Upright notch={notch} isOut={isOut} />
      )}
      <text x="160" y="114" textAnchor="middle" fontSize="13" fontWeight="700" fill="var(--ink)">
        {name}
        {slot?.colour ? ` (${slot.colour})` : ''}
      </text>
    </svg>
  );
}

const ARROW = {
  stroke: 'var(--copper)',
  strokeWidth: 4,
  fill: 'none',
  strokeLinecap: 'round',
} as const;
const down = (x: number, y: number, isOut: boolean) =>
  isOut ? `M${x} ${y + 22}V${y}m-7 8l7 -8l7 8` : `M${x} ${y}v22m-7 -8l7 8l7 -8`;

/** A bar with its contacts, cut by the notch. */
function Bar({ notch, height }: { readonly notch: number; readonly height: number }) {
  const at = 240 * notch;
  return (
    <>
      <path
        d={`M0 0H240V${height}H${at + 4}v-8h-8v8H0Z`}
        fill="var(--bone)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      <path
        d={`M4 ${height - 4}H${at - 8}M${at + 8} ${height - 4}H236`}
        stroke="var(--copper)"
        strokeWidth="5"
        strokeDasharray="4 2"
      />
    </>
  );
}

function Upright({ notch, isOut }: { readonly notch: number; readonly isOut: boolean }) {
  return (
    <>
      <g transform="translate(40 28)">
        <Bar notch={notch} height={36} />
      </g>
      <rect x="34" y="72" width="252" height="14" rx="2" fill="var(--teal)" />
      <rect x={40 + 240 * notch - 2} y="66" width="4" height="14" fill="var(--teal)" />
      <path d="M28 90L20 62" stroke="var(--teal)" strokeWidth="8" strokeLinecap="round" />
      <path d="M292 90L300 62" stroke="var(--teal)" strokeWidth="8" strokeLinecap="round" />
      <path {...ARROW} d={down(70, 2, isOut)} />
      <path {...ARROW} d={down(250, 2, isOut)} />
      <text x="160" y="20" textAnchor="middle" fontSize="11" fill="var(--ink)">
        {isOut ? 'latches outward, then straight up' : 'latches open, both ends evenly'}
      </text>
    </>
  );
}

function Slanted({ notch, isOut }: { readonly notch: number; readonly isOut: boolean }) {
  const top = 200 * notch;
  return (
    <>
      {/* Seen from above, arms at the sides; the angle is drawn beside it. */}
      <rect x="20" y="78" width="200" height="12" rx="2" fill="var(--teal)" />
      <path
        d={`M24 22H216V76H${24 + top}v-7h-8v7H24Z`}
        fill="var(--bone)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      <path
        d={`M28 72H${12 + top}M${30 + top} 72H212`}
        stroke="var(--copper)"
        strokeWidth="5"
        strokeDasharray="4 2"
      />
      <path d="M14 90V34l8 -6M226 90V34l-8 -6" stroke="var(--teal)" strokeWidth="6" fill="none" />
      <path {...ARROW} d={isOut ? 'M120 62V36m-7 8l7 -8l7 8' : 'M120 34v26m-7 -8l7 8l7 -8'} />
      <path d="M240 90h70" stroke="var(--teal)" strokeWidth="6" />
      <path d="M246 88L304 54" stroke="var(--ink)" strokeWidth="5" />
      <path d="M282 88A36 36 0 0 0 277 70" stroke="var(--copper)" strokeWidth="2" fill="none" />
      <text x="290" y="84" fontSize="12" fontWeight="700" fill="var(--ink)">
        30°
      </text>
      <text x="120" y="16" textAnchor="middle" fontSize="11" fill="var(--ink)">
        {isOut
          ? 'spread both arms; it springs up'
          : 'in at a slant, then flat till both arms click'}
      </text>
    </>
  );
}

function Compression({ isOut }: { readonly isOut: boolean }) {
  const screws = [
    [160, 58],
    [70, 40],
    [250, 76],
    [250, 40],
    [70, 76],
  ] as const;
  return (
    <>
      <rect
        x="40"
        y="24"
        width="240"
        height="68"
        rx="4"
        fill="var(--bone)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      {screws.map(([x, y], at) => (
        <g key={at}>
          <circle cx={x} cy={y} r="11" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
          <text
            x={x}
            y={y + 4.5}
            textAnchor="middle"
            fontSize="13"
            fontWeight="700"
            fill="var(--ink)"
          >
            {isOut ? screws.length - at : at + 1}
          </text>
        </g>
      ))}
      <text x="160" y="16" textAnchor="middle" fontSize="11" fill="var(--ink)">
        the order numbered on the module comes first; this one where there is none
      </text>
    </>
  );
}

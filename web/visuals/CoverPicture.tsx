import type { MouseEvent } from 'react';
import type { CoverMap, CoverPart } from '#core/fitting';
import { driverText, lengthText } from '#core/explaining';

interface CoverPictureProps {
  readonly map: CoverMap;
  /** Address of a photo to draw on. */
  readonly photo?: string | undefined;
  /** Parts that are out, by id. */
  readonly out?: ReadonlySet<string>;
  /** The part to look at now. */
  readonly here?: string | undefined;
  readonly onPart?: ((part: CoverPart) => void) | undefined;
  /** The bare cover was pressed, mm from its corner. */
  readonly onSpot?: ((x: number, y: number) => void) | undefined;
}

/** What a part is, in words. */
export function partText(part: CoverPart): string {
  if (part.kind === 'clip') return 'clip';
  if (part.kind === 'cable') return part.what;
  return [
    part.captive ? 'captive screw' : 'screw',
    driverText(part),
    lengthText(part.length).toLowerCase(),
    ...(part.under === 'nothing' ? [] : [`under a ${part.under}`]),
  ].join(', ');
}

/** A cover as it lies before one: screws round, clips pointed, leads square; numbered as they come out. */
export function CoverPicture({ map, photo, out, here, onPart, onSpot }: CoverPictureProps) {
  const { width, height, parts } = map;
  // Signs are drawn for the eye, not to scale: on a large cover they grow with it.
  const unit = Math.max(width, height) / 34;
  const press = (event: MouseEvent<SVGSVGElement>) => {
    if (!onSpot || event.target !== event.currentTarget.querySelector('[data-cover]')) return;
    const box = event.currentTarget.getBoundingClientRect();
    onSpot(
      ((event.clientX - box.left) / box.width) * width,
      ((event.clientY - box.top) / box.height) * height,
    );
  };
  return (
    // oxlint-disable-next-line jsx-a11y/click-events-have-key-events, jsx-a11y/no-noninteractive-element-interactions -- by keyboard one is put in the middle, beside it
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className={`max-h-[52vh] w-full overflow-visible rounded-lg ${onSpot ? 'cursor-crosshair' : ''}`}
      role="group"
      aria-label="Cover map"
      preserveAspectRatio="xMidYMid meet"
      style={{ aspectRatio: `${width} / ${height}`, maxWidth: `calc(52vh * ${width / height})` }}
      onClick={press}
    >
      <rect
        data-cover
        width={width}
        height={height}
        rx={unit / 2}
        fill={photo ? 'transparent' : 'var(--bone)'}
        stroke="var(--edge)"
        strokeWidth={unit / 12}
      />
      {photo && (
        <image
          href={photo}
          {...{ width, height }}
          preserveAspectRatio="none"
          style={{ pointerEvents: 'none' }}
        />
      )}
      {parts.map((part, at) => (
        <Sign
          key={part.id}
          {...{ part, unit }}
          number={at + 1}
          isOut={out?.has(part.id) ?? false}
          isHere={here === part.id}
          onPress={onPart && (() => onPart(part))}
        />
      ))}
    </svg>
  );
}

interface SignProps {
  readonly part: CoverPart;
  readonly unit: number;
  readonly number: number;
  readonly isOut: boolean;
  readonly isHere: boolean;
  readonly onPress: (() => void) | undefined;
}

function Sign({ part, unit, number, isOut, isHere, onPress }: SignProps) {
  const { x, y } = part;
  const name = `${number}: ${partText(part)}${isOut ? ', out' : ''}${isHere ? ', this one' : ''}`;
  const line = {
    strokeWidth: unit / 9,
    stroke: 'var(--ink)',
    fill: isOut ? 'none' : 'var(--sheet)',
  };
  const dashed = isOut ? `${unit / 4} ${unit / 5}` : undefined;
  const shape =
    part.kind === 'fastener' ? (
      <>
        {part.under !== 'nothing' && (
          <circle
            {...line}
            r={unit * 1.15}
            fill="none"
            strokeDasharray={`${unit / 3} ${unit / 4}`}
          />
        )}
        <circle {...line} r={unit * 0.8} strokeDasharray={dashed} />
        {part.captive && <circle {...line} r={unit * 1.02} fill="none" />}
      </>
    ) : part.kind === 'clip' ? (
      <path
        {...line}
        strokeDasharray={dashed}
        d={`M${-unit} ${unit * 0.8}L0 ${-unit}L${unit} ${unit * 0.8}Z`}
      />
    ) : (
      <rect
        {...line}
        strokeDasharray={dashed}
        x={-unit}
        y={-unit * 0.75}
        width={unit * 2}
        height={unit * 1.5}
        rx={unit / 5}
      />
    );
  return (
    <g
      transform={`translate(${x} ${y})`}
      role={onPress ? 'button' : 'img'}
      tabIndex={onPress ? 0 : undefined}
      aria-label={name}
      className={onPress ? 'cursor-pointer' : ''}
      onClick={onPress}
      onKeyDown={(event) => {
        if (!onPress || (event.key !== 'Enter' && event.key !== ' ')) return;
        event.preventDefault();
        event.stopPropagation();
        onPress();
      }}
    >
      {/* A thumb's width to press on. */}
      <circle r={unit * 1.6} fill="transparent" />
      {isHere && (
        <circle
          r={unit * 1.7}
          fill="var(--copper-wash)"
          stroke="var(--copper)"
          strokeWidth={unit / 4}
        />
      )}
      {shape}
      <text
        textAnchor="middle"
        y={part.kind === 'clip' ? unit * 0.62 : unit * 0.32}
        fontSize={unit * 0.95}
        fontWeight={700}
        fill={isOut ? 'var(--muted)' : 'var(--ink)'}
        style={{ pointerEvents: 'none' }}
      >
        {number}
      </text>
    </g>
  );
}

import type { RoleSource } from '@rackle/core/show';

const WIDTH = 84;
const HEIGHT = 44;
const POINTS = 24;

interface Props {
  source: Pick<RoleSource, 'lowest' | 'highest' | 'reversed' | 'curve'>;
  /** Where the control stands after its curve, 0–1; null before its first move. */
  stands: number | null;
  /** Where the value stands in its range, 0–1; null when it has none here. */
  share: number | null;
}

/** How far along its travel (left to right) a control has moved its value (upwards), with both as they stand now. */
export function CurveView({ source, stands, share }: Props) {
  const { lowest, highest, reversed } = source;
  const exponent = 2 ** (source.curve / 50);
  const shaped = (raw: number): number => {
    const within = highest === lowest ? raw : Math.min(1, Math.max(0, (raw * 127 - lowest) / (highest - lowest)));
    return (reversed ? 1 - within : within) ** exponent;
  };
  const x = (raw: number): number => 1 + raw * (WIDTH - 2);
  const y = (value: number): number => HEIGHT - 1 - value * (HEIGHT - 2);
  const path = Array.from(
    { length: POINTS + 1 },
    (_, i) => `${i === 0 ? 'M' : 'L'}${x(i / POINTS).toFixed(1)} ${y(shaped(i / POINTS)).toFixed(1)}`,
  ).join(' ');
  const rawOf = (value: number): number => {
    const within = reversed ? 1 - value ** (1 / exponent) : value ** (1 / exponent);
    return (lowest + within * (highest - lowest)) / 127;
  };
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={
        stands === null
          ? 'not moved yet'
          : `stands at ${Math.round(stands * 100)} %${share === null ? '' : `, value at ${Math.round(share * 100)} %`}`
      }
      className="mt-1.5 shrink-0 border-b border-l border-rule"
    >
      <path d={path} fill="none" stroke="var(--ink)" strokeWidth={1.5} />
      {share !== null && (
        <line x1={0} x2={WIDTH} y1={y(share)} y2={y(share)} stroke="var(--ink2)" strokeDasharray="3 3" />
      )}
      {stands !== null && <circle cx={x(rawOf(stands))} cy={y(stands)} r={3.5} fill="#e0401c" />}
    </svg>
  );
}

import { velocityTable } from '@rackle/core/show';
import type { Part } from '@rackle/core/show';
import { useApp } from '../../state/hooks';

const SIZE = 128;

/**
 * How hard a key is struck (from left to right) against how hard the layer plays it; the last hundred strikes that it
 * took stand on the curve, and under it.
 */
export function VelocityCurve({ part }: { part: Part }) {
  const strikes = useApp(({ live }) => live.strikes);
  const { zone } = part;
  const table = velocityTable(part.velocity, zone);
  const taken = strikes.filter(
    ({ key, velocity }) =>
      key >= zone.lowKey && key <= zone.highKey && velocity >= zone.lowVelocity && velocity <= zone.highVelocity,
  );
  const path = Array.from(
    { length: zone.highVelocity - zone.lowVelocity + 1 },
    (_, i) => `${i === 0 ? 'M' : 'L'}${zone.lowVelocity + i} ${SIZE - table[zone.lowVelocity + i]}`,
  ).join('');
  return (
    <svg
      viewBox={`-1 -1 ${SIZE + 2} ${SIZE + 2}`}
      className="h-24 w-24 shrink-0 border-b border-l border-ink"
      role="img"
      aria-label={`velocity curve; ${taken.length} of the last ${strikes.length} strikes are this layer’s`}
      data-testid="velocity-curve"
    >
      <path d={`M0 ${SIZE}L${SIZE} 0`} stroke="var(--rule)" strokeWidth={1} fill="none" />
      <path d={path} stroke="var(--ink)" strokeWidth={2.5} fill="none" />
      {taken.map(({ serial, velocity }) => (
        <path key={serial} d={`M${velocity} ${SIZE}v-7`} stroke="var(--ink)" strokeWidth={1.2} opacity={0.55} />
      ))}
      {taken.map(({ serial, velocity }, i) =>
        i === taken.length - 1 ? (
          <circle key={serial} cx={velocity} cy={SIZE - table[velocity]} r={4.5} className="fill-live" />
        ) : (
          <circle
            key={serial}
            cx={velocity}
            cy={SIZE - table[velocity]}
            r={2.6}
            fill="var(--ground)"
            stroke="var(--ink)"
            strokeWidth={1}
          />
        ),
      )}
    </svg>
  );
}

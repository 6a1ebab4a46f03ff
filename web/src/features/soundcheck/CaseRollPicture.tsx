import type { CaseRoll } from '@rackle/core/soundcheck';
import { rollLanes } from './rollLanes';

const WIDTH_PX = 640;
const LANE_PX = 26;
const NAMES_PX = 190;
const HEAD_PX = 18;

/** What was sent where, over the time of a case; recalls as lines through all of it. */
export function CaseRollPicture({ roll }: { roll: CaseRoll }) {
  const { lanes, recalls, endMs } = rollLanes(roll);
  const x = (atMs: number): number => NAMES_PX + (Math.min(atMs, endMs) / endMs) * (WIDTH_PX - NAMES_PX - 4);
  const height = HEAD_PX + lanes.length * LANE_PX + 4;
  return (
    <div className="overflow-x-auto">
      <svg
        width={WIDTH_PX}
        height={height}
        role="img"
        aria-label={lanes.map(({ name, notes }) => `${name}: ${notes.length} notes`).join(', ')}
        className="my-1"
      >
        {lanes.map(({ name, notes, marks }, i) => {
          const top = HEAD_PX + i * LANE_PX;
          return (
            <g key={name}>
              <line x1={0} x2={WIDTH_PX} y1={top} y2={top} stroke="var(--rule)" />
              <text x={0} y={top + 17} fontSize={12} fill="var(--ink)">
                {name.length > 30 ? `… ${name.slice(-28)}` : name}
              </text>
              {marks.map((atMs, m) => (
                <rect key={m} x={x(atMs)} y={top + 3} width={2} height={5} fill="var(--ink2)" />
              ))}
              {notes.map(({ fromMs, toMs, key }, n) => (
                <rect
                  key={n}
                  x={x(fromMs)}
                  y={top + 10 + (127 - key) * 0.1}
                  width={Math.max(2, x(toMs) - x(fromMs))}
                  height={4}
                  fill="var(--ink)"
                />
              ))}
            </g>
          );
        })}
        {recalls.map((atMs) => (
          <g key={atMs}>
            <line x1={x(atMs)} x2={x(atMs)} y1={12} y2={height} stroke="var(--color-live)" strokeWidth={1.5} />
            <text x={x(atMs)} y={10} fontSize={11} fill="var(--ink2)" textAnchor="middle">
              recall
            </text>
          </g>
        ))}
      </svg>
    </div>
  );
}

import { effectCurve, type Effect } from '@rackle/core/show';

const WORDS = { response: 'gain over frequency', transfer: 'level out over level in' };

/** What an effect does as a line, where there is room: gain over frequency, or level out over level in. */
export function EffectLine({ effect }: { effect: Effect }) {
  const curve = effectCurve(effect);
  if (curve === null) return null;
  const path = curve.points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x * 100} ${(1 - y) * 30}`).join('');
  return (
    <svg
      viewBox="0 0 100 30"
      preserveAspectRatio="none"
      role="img"
      aria-label={`${effect.kind}: ${WORDS[curve.kind]}`}
      className="ml-auto hidden h-8 w-28 shrink-0 self-center border-b border-l border-rule min-[1500px]:block"
    >
      <path
        d={curve.kind === 'response' ? 'M0 15H100' : 'M0 30L100 0'}
        stroke="var(--rule)"
        vectorEffect="non-scaling-stroke"
        fill="none"
      />
      <path
        d={path}
        stroke={effect.on ? 'var(--ink)' : 'var(--ink2)'}
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
        fill="none"
      />
    </svg>
  );
}

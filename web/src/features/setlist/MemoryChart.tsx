import { Bar, BarChart, Cell, Tooltip, XAxis, YAxis } from 'recharts';

/** A song of the running order and the memory that its instruments take. */
export interface SongMemory {
  id: string;
  name: string;
  mb: number;
  number: number;
}

const BAR_PX = 11;
const LEAST_PX = 254;

/** The memory of each song; of a long set it is as wide as it needs, and scrolls. */
export function MemoryChart({ songs, live }: { songs: readonly SongMemory[]; live: string | null }) {
  const width = Math.max(LEAST_PX, songs.length * BAR_PX + 36);
  return (
    <div className="mt-2 overflow-x-auto">
      <BarChart
        width={width}
        height={130}
        data={[...songs]}
        barCategoryGap={1}
        margin={{ top: 4, right: 0, bottom: 0, left: 0 }}
        accessibilityLayer={false}
      >
        <XAxis dataKey="number" tick={{ fontSize: 11, fill: 'var(--ink2)' }} stroke="var(--ink)" tickLine={false} />
        <YAxis width={34} tick={{ fontSize: 11, fill: 'var(--ink2)' }} stroke="var(--ink)" tickLine={false} />
        <Tooltip
          cursor={{ fill: 'var(--ground2)' }}
          isAnimationActive={false}
          contentStyle={{ background: 'var(--ink)', color: 'var(--ground)', border: 'none', padding: '2px 8px' }}
          itemStyle={{ color: 'var(--ground)' }}
          labelFormatter={(_, [item]) => (item?.payload as SongMemory | undefined)?.name ?? ''}
          formatter={(mb) => [`${String(mb)} MB`, 'memory']}
        />
        <Bar dataKey="mb" isAnimationActive={false}>
          {songs.map(({ id }) => (
            <Cell key={id} fill={id === live ? 'var(--color-live)' : 'var(--ink)'} />
          ))}
        </Bar>
      </BarChart>
    </div>
  );
}

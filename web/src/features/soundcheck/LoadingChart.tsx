import { Bar, BarChart, LabelList, ReferenceLine, Tooltip, XAxis, YAxis } from 'recharts';
import type { SongLoading } from '@rackle/core/loading';

/** A song of the running order, and its memory. */
export interface LoadedSong extends SongLoading {
  name: string;
  number: number;
}

const BAR_PX = 13;
const LEAST_PX = 560;
const HEIGHT_PX = 190;
/** Beside a peak much lower than the budget its line would press everything down. */
const NEAR_BUDGET = 0.4;

const PARTS = [
  ['alwaysMb', 'always there', 'var(--ink2)'],
  ['ownMb', 'of this song', 'var(--ink)'],
  ['othersMb', 'for other songs', 'var(--rule)'],
] as const;

const waitWords = (ms: number): string => (ms > 0 ? `${(ms / 1000).toFixed(1)} s` : '');

/** The part of a bar that its wait stands on: what takes nothing is not drawn. */
const topOf = (song: LoadedSong): keyof LoadedSong | undefined => PARTS.findLast(([key]) => song[key] > 0)?.[0];

/** Memory song by song, stacked by what it is for; the budget as a line, waits over the bars. */
export function LoadingChart({ songs, budgetMb }: { songs: readonly LoadedSong[]; budgetMb: number }) {
  const width = Math.max(LEAST_PX, songs.length * BAR_PX + 50);
  const most = Math.max(1, ...songs.map(({ ownMb, othersMb, alwaysMb }) => ownMb + othersMb + alwaysMb));
  const showsBudget = most > budgetMb * NEAR_BUDGET;
  return (
    <div className="overflow-x-auto">
      <BarChart
        width={width}
        height={HEIGHT_PX}
        data={[...songs]}
        barCategoryGap={2}
        margin={{ top: 16, right: 4, bottom: 0, left: 0 }}
        accessibilityLayer={false}
      >
        <XAxis dataKey="number" tick={{ fontSize: 11, fill: 'var(--ink2)' }} stroke="var(--ink)" tickLine={false} />
        <YAxis
          width={58}
          domain={[0, Math.ceil(showsBudget ? Math.max(most, budgetMb) : most)]}
          tick={{ fontSize: 11, fill: 'var(--ink2)' }}
          stroke="var(--ink)"
          tickLine={false}
          unit=" MB"
        />
        <Tooltip
          cursor={{ fill: 'var(--ground2)' }}
          isAnimationActive={false}
          contentStyle={{ background: 'var(--ink)', color: 'var(--ground)', border: 'none', padding: '2px 8px' }}
          itemStyle={{ color: 'var(--ground)', padding: 0 }}
          labelFormatter={(_, [item]) => (item?.payload as LoadedSong | undefined)?.name ?? ''}
          formatter={(mb, name) => [`${Math.round(Number(mb))} MB`, name]}
        />
        {showsBudget && <ReferenceLine y={budgetMb} stroke="var(--ink)" strokeDasharray="4 3" />}
        {PARTS.map(([key, name, fill]) => (
          <Bar key={key} dataKey={key} name={name} stackId="memory" fill={fill} isAnimationActive={false}>
            <LabelList
              dataKey={(song: LoadedSong) => (topOf(song) === key ? waitWords(song.waitMs) : '')}
              position="top"
              fontSize={11}
              fill="var(--ink)"
              fontWeight="bold"
            />
          </Bar>
        ))}
      </BarChart>
    </div>
  );
}

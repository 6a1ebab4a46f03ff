/** Room on a sheet of paper, in millimetres: what A4 and Letter both have within 12 mm of margin. */
export const PAPER_MM = { width: 186, height: 254 };
/** Name of the set, its time, what comes after. */
const HEAD_MM = 28;
const LARGEST_MM = 19;
const SMALLEST_MM = 3;
const STEP_MM = 0.25;
/** Of the size of the letters: height of a line, size of a note, least and most room between songs. */
const LINE = 1.08;
export const NOTE_EM = 0.34;
const NOTE_LINE = 1.3;
/** How high key and tempo are, one under the other. */
const BESIDE = 1.34;
const LEAST_GAP = 0.2;
const MOST_GAP = 0.8;
/** Of the same: what stands beside the name. */
export const NUMBER_EM = 0.9;
export const KEY_EM = 1.7;

/** How wide a song's name and the note under it would be in letters of a size of 1; 0: there is none. */
export interface FloorRow {
  widthEm: number;
  noteEm: number;
}

/** How large the letters of one set are, in how many columns, and how far its songs stand apart. */
export interface FloorSize {
  sizeMm: number;
  columns: 1 | 2;
  /** Of the size. */
  gapEm: number;
}

/** Below this, two columns are better than one. */
const WORTH_TWO_MM = 9;

/** As large as a set goes on one page: long names take two lines where that leaves all of them larger. */
export function floorSize(rows: readonly FloorRow[]): FloorSize {
  const one = largest(rows, 1);
  if (one.sizeMm >= WORTH_TWO_MM || rows.length < 2) return one;
  const two = largest(rows, 2);
  return two.sizeMm > one.sizeMm ? two : one;
}

function largest(rows: readonly FloorRow[], columns: 1 | 2): FloorSize {
  let sizeMm = LARGEST_MM;
  while (sizeMm > SMALLEST_MM && heightMm(rows, sizeMm, columns) > PAPER_MM.height - HEAD_MM) sizeMm -= STEP_MM;
  const freeMm = PAPER_MM.height - HEAD_MM - heightMm(rows, sizeMm, columns);
  const more = freeMm / Math.ceil(rows.length / columns) / sizeMm;
  return { sizeMm, columns, gapEm: Math.min(MOST_GAP, LEAST_GAP + Math.max(0, more)) };
}

/** Of the highest column, with the least room between. */
function heightMm(rows: readonly FloorRow[], sizeMm: number, columns: 1 | 2): number {
  const roomEm = PAPER_MM.width / columns / sizeMm - NUMBER_EM - KEY_EM;
  if (roomEm < KEY_EM) return Infinity;
  const heights = rows.map(
    ({ widthEm, noteEm }) =>
      (Math.max(BESIDE, linesOf(widthEm, roomEm) * LINE + linesOf(noteEm * NOTE_EM, roomEm) * NOTE_EM * NOTE_LINE) +
        LEAST_GAP) *
      sizeMm,
  );
  const perColumn = Math.ceil(rows.length / columns);
  const columnMm = (from: number): number => heights.slice(from, from + perColumn).reduce((sum, one) => sum + one, 0);
  return Math.max(columnMm(0), columns === 2 ? columnMm(perColumn) : 0);
}

/** Of words that are so wide together: a line is hardly ever filled to its end. */
const linesOf = (widthEm: number, roomEm: number): number =>
  widthEm <= roomEm ? Math.ceil(Math.min(1, widthEm)) : Math.ceil((widthEm * 1.3) / roomEm);

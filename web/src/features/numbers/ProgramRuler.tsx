import { addressNumber } from '@rackle/core/programs';
import type { ProgramLine } from '@rackle/core/show';

const PER_LINE = 32;
const PER_BANK = 128;

interface Props {
  lines: readonly ProgramLine[];
  tapeOf: (line: ProgramLine) => string;
  nameOf: (line: ProgramLine) => string;
  twice: ReadonlySet<ProgramLine>;
  live: ProgramLine | null;
  chosen: ProgramLine | null;
  programsFrom: 0 | 1;
  /** An empty tick has been clicked: its address number. */
  onPlace: ((address: number) => void) | null;
  onChoose: (line: ProgramLine) => void;
}

/** 128 ticks a bank, 32 to a line; a strip of tape stands on each number in use. */
export function ProgramRuler({ lines, tapeOf, nameOf, twice, live, chosen, programsFrom, onPlace, onChoose }: Props) {
  const byAddress = new Map<number, ProgramLine[]>();
  for (const line of lines) byAddress.set(addressNumber(line), [...(byAddress.get(addressNumber(line)) ?? []), line]);
  const banks = [...new Set([0, ...lines.map((line) => line.msb * PER_BANK + line.lsb)])].sort((a, b) => a - b);
  return (
    <div>
      {banks.map((bank) => (
        <section key={bank} aria-label={`bank ${bank >> 7}/${bank & 127}`} className="mb-4">
          <h3 className="text-[13px] font-bold text-ink2">
            bank {bank + programsFrom}{' '}
            <span className="font-normal">
              (MSB {bank >> 7}, LSB {bank & 127})
            </span>
          </h3>
          {Array.from({ length: PER_BANK / PER_LINE }, (_, row) => (
            <div key={row} className="mt-2 grid" style={{ gridTemplateColumns: `repeat(${PER_LINE}, 1fr)` }}>
              {Array.from({ length: PER_LINE }, (_, i) => {
                const program = row * PER_LINE + i;
                const here = byAddress.get(bank * PER_BANK + program) ?? [];
                return (
                  <Tick
                    key={program}
                    program={program}
                    here={here}
                    tapeOf={tapeOf}
                    nameOf={nameOf}
                    isTwice={here.some((line) => twice.has(line))}
                    isLive={live !== null && here.includes(live)}
                    isChosen={chosen !== null && here.includes(chosen)}
                    shown={program + programsFrom}
                    onPress={
                      here.length > 0
                        ? () => onChoose(here[0])
                        : onPlace
                          ? () => onPlace(bank * PER_BANK + program)
                          : null
                    }
                  />
                );
              })}
            </div>
          ))}
        </section>
      ))}
    </div>
  );
}

function Tick({
  program,
  here,
  tapeOf,
  nameOf,
  isTwice,
  isLive,
  isChosen,
  shown,
  onPress,
}: {
  program: number;
  here: ProgramLine[];
  tapeOf: Props['tapeOf'];
  nameOf: Props['nameOf'];
  isTwice: boolean;
  isLive: boolean;
  isChosen: boolean;
  shown: number;
  onPress: (() => void) | null;
}) {
  const title = here.length > 0 ? `${shown}: ${here.map(nameOf).join(' and ')}` : `${shown}: free`;
  return (
    <button
      type="button"
      disabled={onPress === null}
      onClick={onPress ?? undefined}
      title={title}
      aria-label={title}
      className="group flex h-14 flex-col justify-end"
    >
      <span className="relative flex h-8 items-end border-b border-ink">
        {here.length > 0 ? (
          <span
            className={`tape tape-${tapeOf(here[0])} mx-px h-full flex-1 ${isLive ? 'outline-2 outline-live' : isChosen ? 'outline-2 outline-ink' : ''}`}
          />
        ) : (
          <span className={`border-l border-ink ${program % 4 === 0 ? 'h-2.5' : 'h-1.5'} group-hover:h-full`} />
        )}
        {isTwice && (
          <span className="absolute -top-4 left-1/2 z-10 -translate-x-1/2 bg-ink px-1 text-[10px] font-bold leading-4 text-ground">
            twice
          </span>
        )}
      </span>
      <span className="mono h-4 text-left text-[10px] leading-4 text-ink2">{program % 4 === 0 ? shown : ''}</span>
    </button>
  );
}

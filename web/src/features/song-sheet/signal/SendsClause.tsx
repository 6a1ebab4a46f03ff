import { useSetlist } from '../../../state/hooks';
import { NumberField } from '../../../ui/NumberField';
import { BalanceField } from './BalanceField';
import type { Signal } from './signal';

const percent = (value: number): string => `${Math.round(value)} %`;

/** How much of it goes to the room, the echo and the setlist's shared effects. */
export function SendsClause(signal: Signal) {
  const setlist = useSetlist();
  const { balance, at, setBalance } = signal;
  const send = (to: (typeof balance.sends)[number]['to'], share: number): void =>
    setBalance(
      `change what goes to ${to}`,
      {
        sends: [...balance.sends.filter((other) => other.to !== to), ...(share > 0 ? [{ to, percent: share }] : [])],
      },
      `send ${to} ${at}`,
    );
  return (
    <>
      room <BalanceField signal={signal} label="room" name="room" min={0} max={100} show={percent} /> · echo{' '}
      <BalanceField signal={signal} label="echo" name="echo" min={0} max={100} show={percent} />
      {setlist?.sharedEffects.map(({ id, name }) => (
        <span key={id}>
          {' '}
          · {name}{' '}
          <NumberField
            label={`send to ${name}`}
            value={balance.sends.find((other) => other.to === name)?.percent ?? 0}
            min={0}
            max={100}
            show={percent}
            onChange={(share) => send(name, share)}
          />
        </span>
      ))}
    </>
  );
}

import { NumberField } from '../../../ui/NumberField';
import type { Signal } from './signal';

/** A number of the balance; underlined where the blend differs from the patch. */
export function BalanceField({
  signal: { change, part, balance, at, setBalance },
  label,
  name,
  min,
  max,
  step = 1,
  show,
}: {
  signal: Signal;
  label: string;
  name: 'levelDb' | 'pan' | 'room' | 'echo';
  min: number;
  max: number;
  step?: number;
  show: (value: number) => string;
}) {
  const differs = change?.[name] !== undefined && change[name] !== part[name];
  return (
    <NumberField
      label={label}
      value={balance[name]}
      min={min}
      max={max}
      step={step}
      show={show}
      className={differs ? 'border-b-2 !border-solid font-bold' : ''}
      onChange={(value) => setBalance(`change ${label}`, { [name]: value }, `${name} ${at}`)}
    />
  );
}

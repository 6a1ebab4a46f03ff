import { addressFrom, addressNumber, programText } from '@rackle/core/programs';
import type { ProgramLine } from '@rackle/core/show';
import { NumberField } from '../../ui/NumberField';

/** “12”, or “1/2/12” with a bank, typed as it is read. */
export function AddressField({
  line,
  from,
  label,
  onChange,
}: {
  line: ProgramLine;
  from: 0 | 1;
  label: string;
  onChange: (address: number) => void;
}) {
  const read = (text: string): number | null => {
    const parts = text.split('/').map((part) => part.trim());
    if (parts.length > 3 || parts.some((part) => !/^\d{1,3}$/.test(part))) return null;
    const numbers = parts.map(Number);
    const program = numbers[numbers.length - 1] - from;
    const [msb, lsb] = numbers.length === 3 ? numbers : numbers.length === 2 ? [0, numbers[0]] : [line.msb, line.lsb];
    return program < 0 || program > 127 || msb > 127 || lsb > 127 ? -1 : (msb * 128 + lsb) * 128 + program;
  };
  return (
    <NumberField
      label={label}
      value={addressNumber(line)}
      min={0}
      max={2_097_151}
      show={(address) => programText(addressFrom(Math.max(0, address)), from)}
      read={read}
      onChange={onChange}
    />
  );
}

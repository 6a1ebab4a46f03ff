import { addressFrom, addressNumber, numberText, readNumber } from '@rackle/core/programs';
import type { ProgramLine } from '@rackle/core/show';
import { NumberField } from '../../ui/NumberField';

const MOST = 2_097_151;

/** “12”, or “B2 · 12” in another bank than the first, typed as it is read. A bare number keeps its bank. */
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
  return (
    <NumberField
      label={label}
      value={addressNumber(line)}
      min={0}
      max={MOST}
      show={(address) => numberText(addressFrom(Math.max(0, address)), from)}
      read={(text) => readNumber(text, from, line)}
      form={`a program (${from} to ${127 + from}), “B2 · 5” for bank and program, or MSB/LSB/program`}
      onChange={onChange}
    />
  );
}

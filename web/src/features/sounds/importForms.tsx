import { NameColumns, PastedReading, type Table } from '@rackle/core/formats';
import { CheckField, ChoiceField } from '../../ui/form/fields';
import { useSavedForm } from '../../ui/form/useSavedForm';

const COUNTS = [
  { value: 0, label: 'from 0' },
  { value: 1, label: 'from 1' },
] as const;
const FIRST_LINES = 50;

/** Which columns of a table hold what. */
export function ColumnForm({ table, onChange }: { table: Table; onChange: (columns: NameColumns) => void }) {
  const { cells, columns } = table;
  const { control } = useSavedForm(NameColumns, columns, onChange);
  const width = Math.max(...cells.slice(0, FIRST_LINES).map((row) => row.length));
  const items = Array.from({ length: width }, (_, i) => ({
    value: i,
    label: cells[0]?.[i]?.trim().slice(0, 24) || `column ${i + 1}`,
  }));
  return (
    <p className="mt-2 leading-7">
      The name is in <ChoiceField control={control} name="name" label="column of the name" items={items} />, the program
      in{' '}
      <ChoiceField
        control={control}
        name="program"
        label="column of the program"
        items={items}
        none="no column: it counts up"
      />
      , counting <ChoiceField control={control} name="programsFrom" label="programs count" items={COUNTS} />, the bank’s
      MSB in <ChoiceField control={control} name="msb" label="column of the msb" items={items} none="no column" />, its
      LSB in <ChoiceField control={control} name="lsb" label="column of the lsb" items={items} none="no column" />, the
      folder in{' '}
      <ChoiceField control={control} name="folder" label="column of the folder" items={items} none="no column" />;{' '}
      <span className="inline-block">
        <CheckField control={control} name="heading" words="the first line is a heading" />
      </span>
      .
    </p>
  );
}

/** How the lines of a pasted list are read. */
export function ReadingForm({
  reading,
  onChange,
}: {
  reading: PastedReading;
  onChange: (reading: PastedReading) => void;
}) {
  const { control } = useSavedForm(PastedReading, reading, onChange);
  return (
    <p className="mt-2 leading-7">
      The number stands{' '}
      <ChoiceField
        control={control}
        name="number"
        label="where the number stands"
        items={[
          { value: 'before', label: 'before the name' },
          { value: 'behind', label: 'behind the name' },
          { value: 'none', label: 'nowhere: it counts up' },
        ]}
      />
      , counting <ChoiceField control={control} name="programsFrom" label="numbers count" items={COUNTS} />;{' '}
      <ChoiceField
        control={control}
        name="bank"
        label="bank"
        items={[
          { value: 'none', label: 'no bank stands' },
          { value: 'letter', label: 'a bank’s letter stands' },
          { value: 'number', label: 'a bank’s number stands' },
        ]}
      />{' '}
      before it
      {reading.bank !== 'none' && (
        <>
          , sent as{' '}
          <ChoiceField
            control={control}
            name="bankByte"
            label="bank byte"
            items={[
              { value: 'lsb', label: 'bank LSB' },
              { value: 'msb', label: 'bank MSB' },
            ]}
          />
        </>
      )}
      ;{' '}
      <span className="inline-block">
        <CheckField control={control} name="headings" words="lines without a number are folders" />
      </span>
      .
    </p>
  );
}

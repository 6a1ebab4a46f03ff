import type { ComponentProps, ReactNode } from 'react';
import { useController, type Control, type FieldPath, type FieldPathValue, type FieldValues } from 'react-hook-form';
import { Choice, type ChoiceItem } from '../Choice';
import { NumberField } from '../NumberField';

/** A field of a form, by its name; what is wrong with it is said behind it. */
interface FieldProps<Values extends FieldValues, Name extends FieldPath<Values>> {
  control: Control<Values>;
  name: Name;
}

/** A value with its field's trouble: for what is no plain number, choice or tick. */
export function Field<Values extends FieldValues, Name extends FieldPath<Values>>({
  control,
  name,
  children,
}: FieldProps<Values, Name> & {
  children: (value: FieldPathValue<Values, Name>, onChange: (value: FieldPathValue<Values, Name>) => void) => ReactNode;
}) {
  const { field, fieldState } = useController({ control, name });
  return (
    <>
      {children(field.value, field.onChange)}
      {fieldState.error?.message && (
        <span role="alert" className="ml-1 bg-ink px-1.5 py-0.5 text-xs text-ground">
          {fieldState.error.message}
        </span>
      )}
    </>
  );
}

/** Something to tick. */
export function CheckField<Values extends FieldValues, Name extends FieldPath<Values>>({
  words,
  ...props
}: FieldProps<Values, Name> & { words: string }) {
  return (
    <Field {...props}>{(value, onChange) => <Check name={words} on={value} onChange={onChange as never} />}</Field>
  );
}

/** A list of which each item is there or not. */
export function ListField<Values extends FieldValues, Name extends FieldPath<Values>, Item>({
  items,
  ...props
}: FieldProps<Values, Name> & { items: readonly { item: Item; words: string }[] }) {
  return (
    <Field {...props}>
      {(value, onChange) => {
        const list: readonly Item[] = value;
        return (
          <span className="flex flex-wrap gap-x-3">
            {items.map(({ item, words }) => (
              <Check
                key={words}
                name={words}
                on={list.includes(item)}
                onChange={(on) => onChange((on ? [...list, item] : list.filter((other) => other !== item)) as never)}
              />
            ))}
          </span>
        );
      }}
    </Field>
  );
}

/** A choice that may be none of them: `none` reads for null. */
export function ChoiceField<Values extends FieldValues, Name extends FieldPath<Values>>({
  label,
  items,
  none,
  ...props
}: FieldProps<Values, Name> & {
  label: string;
  items: readonly { value: FieldPathValue<Values, Name>; label: string }[];
  none?: string;
}) {
  const all = none === undefined ? items : [{ value: null, label: none }, ...items];
  const shown: ChoiceItem[] = all.map((item, i) => ({ value: String(i), label: item.label }));
  return (
    <Field {...props}>
      {(value, onChange) => (
        <Choice
          label={label}
          value={String(all.findIndex((item) => item.value === value))}
          items={shown}
          onChange={(i) => onChange(all[Number(i)].value as FieldPathValue<Values, Name>)}
        />
      )}
    </Field>
  );
}

/** A number, typed or moved by the arrow keys. */
export function NumberFormField<Values extends FieldValues, Name extends FieldPath<Values>>({
  control,
  name,
  ...look
}: FieldProps<Values, Name> & Omit<ComponentProps<typeof NumberField>, 'value' | 'onChange'>) {
  return (
    <Field control={control} name={name}>
      {(value, onChange) => <NumberField className="mono" {...look} value={value} onChange={onChange as never} />}
    </Field>
  );
}

/** A line of a sheet: what it is about, and its fields. */
export const FormRow = ({ name, children }: { name: string; children: ReactNode }) => (
  <>
    <span className="text-ink2">{name}</span>
    <span>{children}</span>
  </>
);

/** A box to tick, with its words. */
export const Check = ({ name, on, onChange }: { name: string; on: boolean; onChange: (on: boolean) => void }) => (
  <label className="flex items-center gap-1.5 whitespace-nowrap">
    <input
      type="checkbox"
      className="size-4 accent-[var(--ink)]"
      checked={on}
      onChange={(event) => onChange(event.target.checked)}
    />
    {name}
  </label>
);

import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect } from 'react';
import { useForm, type DefaultValues, type FieldPath, type FieldValues, type UseFormReturn } from 'react-hook-form';
import type { z } from 'zod';
import { useLatest } from '../useLatest';

/**
 * A form without a button. What is changed in it and passes its schema is saved at once; what does not stays in the
 * form, and its field says why. What changes elsewhere (undo, another window) shows in it.
 * @param values as they are stored; @param onSave is told all of them and the name of the field that was changed.
 */
export function useSavedForm<Values extends FieldValues>(
  schema: z.ZodType<Values>,
  values: Values,
  onSave: (next: Values, changed: FieldPath<Values>) => void,
): UseFormReturn<Values> {
  const form = useForm<Values>({
    defaultValues: values as DefaultValues<Values>,
    values,
    mode: 'onChange',
    // The resolver's types want the input of a schema; values here have been through it already.
    resolver: zodResolver(schema as z.ZodType<Values, Values>),
  });
  const save = useLatest(onSave);
  const { subscribe } = form;
  useEffect(
    () =>
      subscribe({
        formState: { values: true },
        callback: ({ values: next, name, type }) => {
          if (name === undefined || type !== 'change') return;
          const read = schema.safeParse(next);
          if (read.success) save(read.data, name as FieldPath<Values>);
        },
      }),
    [subscribe, schema, save],
  );
  return form;
}

import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect, useLayoutEffect, useRef } from 'react';
import { useForm, type DefaultValues, type FieldValues, type Path, type UseFormReturn } from 'react-hook-form';
import type { z } from 'zod';
import { useLatest } from '../useLatest';

/**
 * A form without a button. What is changed in it and passes its schema is saved at once; what does not stays in its
 * field, which says why, and keeps back no other. What changes elsewhere (undo, another window) shows in it.
 * @param values as they are stored; @param onSave is told all of them and the field that was changed, the outermost
 * one where fields lie in each other.
 */
export function useSavedForm<Values extends FieldValues>(
  schema: z.ZodType<Values>,
  values: Values,
  onSave: (next: Values, changed: keyof Values) => void,
): UseFormReturn<Values> {
  const form = useForm<Values>({
    defaultValues: values as DefaultValues<Values>,
    mode: 'onChange',
    // The resolver's types want the input of a schema; values here have been through it already.
    resolver: zodResolver(schema as z.ZodType<Values, Values>),
  });
  const save = useLatest(onSave);
  const stored = useRef(values);
  const { subscribe, reset, getValues, setValue, getFieldState } = form;
  useLayoutEffect(() => {
    if (stored.current === values) return;
    stored.current = values;
    // What is refused stays in its field with its reason, whatever is stored anew beside it.
    const typed = getValues();
    const refused = (Object.keys(typed) as Path<Values>[]).filter((name) => getFieldState(name).invalid);
    reset(values);
    for (const name of refused) setValue(name, typed[name], { shouldValidate: true, shouldDirty: true });
  }, [values, reset, getValues, setValue, getFieldState]);
  useEffect(
    () =>
      subscribe({
        formState: { values: true },
        callback: ({ values: next, name, type }) => {
          if (name === undefined || type !== 'change') return;
          const changed: keyof Values = name.split('.')[0];
          const read = schema.safeParse({ ...stored.current, [changed]: next[changed] });
          if (!read.success) return;
          stored.current = read.data;
          save(read.data, changed);
        },
      }),
    [subscribe, schema, save],
  );
  return form;
}

/** What becomes of a layer's notes as it is left. */
export const Carry = { hold: 0, fade: 1, cut: 2 } as const;
export type Carry = (typeof Carry)[keyof typeof Carry];

/** What a layer does with notes while its sound is not ready; `stay`: the layers before it play them. */
export const NotReady = { atOnce: 0, wait: 1, silent: 2, stay: 3 } as const;
export type NotReady = (typeof NotReady)[keyof typeof NotReady];

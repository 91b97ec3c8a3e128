/** Puts the hand into the first field of a form that was objected to, once that is drawn. */
export const focusWrong = (): void => {
  window.setTimeout(() => document.querySelector<HTMLElement>('form .is-invalid')?.focus());
};

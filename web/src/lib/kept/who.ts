import { keepLocal } from './local';

/** Whose this browser is, as the program last said: a person's id, blank for the owner. */
export function setWho(id: string): void {
  keepLocal('who', id);
}

export const whoNow = (): string => localStorage.getItem('who') ?? '';

import type { ReactNode } from 'react';
import { useProgram } from './queries';

/** What only those see who may plan: who walks the round for somebody enters what he finds, and changes nothing else. */
export function Plans({ children }: { children: ReactNode }) {
  return usePlans() ? children : null;
}

export const usePlans = (): boolean => useProgram().data?.role !== 'helper';

/** Whether something that was done, and by whom, may be taken back here: a helper takes back what he did himself. */
export function useMayUndo(): (who: string | undefined) => boolean {
  const { data } = useProgram();
  return (who) => data?.role !== 'helper' || who === data.who;
}

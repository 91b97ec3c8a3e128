import { useLineID, useSeason } from '../lib/ask/queries';

/** Leads to a page of the book, in the season that is chosen. */
export function useLeads() {
  const line = useLineID();
  const season = useSeason();
  return (page: string, asks: Record<string, string> = {}): string => {
    const all = new URLSearchParams({ ...(season && { season }), ...asks }).toString();
    return `/line/${line}/book${page && `/${page}`}${all && `?${all}`}`;
  };
}

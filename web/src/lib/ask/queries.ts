import { keepLocal } from '../kept/local';
import { targets } from '../lists.gen';
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { get } from './api';
import { heard } from '../kept/clock';
import { hung } from './hung';
import { isFor, onTaken, setFile, useFile, useKept, type Kept } from '../kept/outbox';
import { layBook, layDay, layGround, layLine, type Read } from '../kept/overlay';
import { rereadMs } from './pace';
import { useReach } from './reach';
import type { About, BookView, Day, Ground, Kind, Kit, LineView, Mend, Rack, Shelf, Stood, TrapEvent, WeatherView } from '../types.gen';

/** The id of the line in the address. */
export function useLineID(): string {
  return useParams().line ?? '';
}

/** What was read stays in this browser for as long as it is shown. */
const stays = { gcTime: Infinity };

async function askAbout(): Promise<About> {
  const asked = Date.now();
  const about = await get<About>('/about');
  heard(about.now, about.still, asked);
  setFile(about.file);
  return about;
}

/** Reads, and notes when it was asked for. */
async function read<T>(path: string): Promise<Read<T>> {
  const askedMs = Date.now();
  return { ...(await get<T>(path)), askedMs };
}

export const useAbout = () => useQuery({ queryKey: ['about'], queryFn: askAbout, refetchInterval: rereadMs, ...stays });

/** What was entered here for the file that the program has open. */
function useEntered(): Kept[] {
  const file = useFile();
  const kept = useKept();
  return useMemo(() => kept.filter((w) => isFor(w, file)), [kept, file]);
}

/** The line as it was read, with what was entered here laid over it. */
export function useLine() {
  const id = useLineID();
  const entered = useEntered();
  const query = useQuery({
    queryKey: ['line', id],
    queryFn: () => read<LineView>(`/lines/${id}`),
    placeholderData: keepPreviousData,
    refetchInterval: rereadMs,
    ...stays,
  });
  const { data, error } = query;
  return { data: useMemo(() => data && layLine(data, entered), [data, entered]), error };
}

/** The season that the address asks for: an id, `all`, or blank for the open one. */
export const useSeason = () => useSearchParams()[0].get('season') ?? '';

const asking = (season: string) => (season === '' ? '' : `?season=${season}`);

/** What was read, or what stood there before until it is; when the program does not answer, nothing is shown for what it is not. */
function useShown<T>({ data, isPlaceholderData }: { data: T | undefined; isPlaceholderData: boolean }): T | undefined {
  return useReach() || !isPlaceholderData ? data : undefined;
}

/** The ground with the sign of the season that the address asks for. */
export function useGround() {
  const id = useLineID();
  const season = useSeason();
  const entered = useEntered();
  const query = useQuery({
    queryKey: ['line', id, 'ground', season],
    queryFn: () => read<Ground>(`/lines/${id}/ground${asking(season)}`),
    placeholderData: keepPreviousData,
    ...stays,
  });
  const data = useShown(query);
  return { data: useMemo(() => data && layGround(data, id, entered), [data, id, entered]) };
}

export function useWeather() {
  const id = useLineID();
  return useQuery({
    queryKey: ['line', id, 'weather'],
    queryFn: () => get<WeatherView>(`/lines/${id}/weather`),
    refetchInterval: ({ state }) => (state.data?.fetching ? rereadMs / 60 : state.data?.trouble ? rereadMs / 4 : 5 * rereadMs),
    ...stays,
  });
}

/** What can be drawn on the ground. */
export const useKinds = () => useQuery({ queryKey: ['kinds'], queryFn: () => get<Kind[]>('/kinds'), staleTime: Infinity, ...stays });

/** The sets that a spot has met, over all seasons. */
export function useSpotStory(spot: string) {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'stood', spot], queryFn: () => get<Stood[]>(`/lines/${id}/spots/${spot}/story`), ...stays });
}

/** The book of a season. */
export function useBook(season = '') {
  const id = useLineID();
  const entered = useEntered();
  const { data: view } = useLine();
  const query = useQuery({
    queryKey: ['line', id, 'book', season],
    queryFn: () => read<BookView>(`/lines/${id}/book${asking(season)}`),
    placeholderData: keepPreviousData,
    ...stays,
  });
  const data = useShown(query);
  return { data: useMemo(() => data && view && layBook(data, view, entered, targets), [data, view, entered]) };
}

/** A day of the line as it is written up, with what was entered here laid over it. */
export function useDay(date: string) {
  const id = useLineID();
  const entered = useEntered();
  const { data } = useQuery({
    queryKey: ['line', id, 'day', date],
    queryFn: () => read<Day>(`/lines/${id}/day/${date}`),
    placeholderData: keepPreviousData,
    ...stays,
  });
  return { data: useMemo(() => data && layDay(data, id, entered), [data, id, entered]) };
}

/** How a look was put right. */
export function useMends(visit: string) {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'mends', visit], queryFn: () => get<Mend[]>(`/lines/${id}/visits/${visit}/mends`) });
}

export function useRack() {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'rack'], queryFn: () => get<Rack>(`/lines/${id}/rack`), select: hung, ...stays });
}

export function useTrapHistory(trap: string) {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'history', trap], queryFn: () => get<TrapEvent[]>(`/lines/${id}/traps/${trap}/history`) });
}

export function useShelf() {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'shelf'], queryFn: () => get<Shelf>(`/lines/${id}/shelf`), ...stays });
}

export function useKit(day: string) {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'kit', day], queryFn: () => read<Kit>(`/lines/${id}/kit/${day}`), ...stays });
}

/** Kinds of which a write touches nothing that stands on the page but itself, which lies over what was read; of any other kind, all of the line. */
const touchNothing = [
  // An arrow key on a pan saves the design: nothing that hangs on the rack, the weather or the record is otherwise.
  'designs',
];

/**
 * Reads everything about the line anew whenever the program has taken a write. When the program has another file open than
 * before, nothing that was read holds any more.
 */
export function useFreshness() {
  const client = useQueryClient();
  const about = useAbout();
  const file = about.data?.file;
  useEffect(
    () =>
      onTaken((path) => {
        // What is not touched is read anew when it is opened next.
        const refetchType = touchNothing.includes(path.split('/')[3] ?? '') ? 'none' : 'active';
        for (const key of ['design', 'line']) void client.invalidateQueries({ queryKey: [key], refetchType });
        if (path === '' || /^\/lines\/[^/]+$/.test(path)) void client.invalidateQueries({ queryKey: ['about'] });
      }),
    [client],
  );
  useEffect(() => {
    const before = localStorage.getItem('read-file');
    if (file === undefined || file === before) return;
    keepLocal('read-file', file);
    if (before !== null) void client.resetQueries({ predicate: (q) => q.queryKey[0] !== 'about' });
  }, [client, file]);
}

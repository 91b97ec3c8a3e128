import { keepLocal } from '../kept/local';
import { targets } from '../lists.gen';
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { hung } from './hung';
import { isFor, isWaiting, keptNow, onKept, onTaken, useFile, useKept, type Kept } from '../kept/outbox';
import { layBook, layGround, layLine } from '../kept/overlay';
import { findAgainMs, rereadMs, restsMs, takeAlongMs, whileSendingMs } from './pace';
import { onReach, reachNow, useReach } from './reach';
import { routes, touchedBy } from './routes';

/** The id of the line in the address. */
export function useLineID(): string {
  return useParams().line ?? '';
}

/** What was read stays in this browser for as long as it is shown. */
const stays = { gcTime: Infinity };

export const useProgram = () => useQuery({ ...routes.program(), refetchInterval: () => (reachNow() ? rereadMs : findAgainMs), ...stays });

/** Whether who sits here may do what only the owner does. */
export const useOwns = (): boolean => useProgram().data?.role === 'owner';

/** By whom something was done, as it is told after what it was; blank for the owner. */
export function useBy(): (who: string | undefined) => string {
  const helpers = useProgram().data?.helpers;
  return (who) => (who ? ` · by ${helpers?.[who] ?? 'somebody'}` : '');
}

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
    ...routes.line(id),
    placeholderData: keepPreviousData,
    refetchInterval: rereadMs,
    ...stays,
  });
  const { data, error } = query;
  return { data: useMemo(() => data && layLine(data, entered), [data, entered]), error };
}

/** The season that the address asks for: an id, `all`, or blank for the open one. */
export const useSeason = () => useSearchParams()[0].get('season') ?? '';

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
    ...routes.ground(id, season),
    placeholderData: keepPreviousData,
    ...stays,
  });
  const data = useShown(query);
  return { data: useMemo(() => data && layGround(data, id, entered), [data, id, entered]) };
}

export function useWeather() {
  const id = useLineID();
  return useQuery({
    ...routes.weather(id),
    refetchInterval: ({ state }) => (state.data?.fetching ? rereadMs / 60 : state.data?.trouble ? rereadMs / 4 : 5 * rereadMs),
    ...stays,
  });
}

/** What can be drawn on the ground. */
export const useKinds = () => useQuery({ ...routes.kinds(), staleTime: Infinity, ...stays });

/** The sets that a spot has met, over all seasons. */
export function useSpotStory(spot: string) {
  const id = useLineID();
  return useQuery({ ...routes.story(id, spot), ...stays });
}

/** The book of a season. */
export function useBook(season = '') {
  const id = useLineID();
  const entered = useEntered();
  const { data: view } = useLine();
  const query = useQuery({
    ...routes.book(id, season),
    placeholderData: keepPreviousData,
    ...stays,
  });
  const data = useShown(query);
  return { data: useMemo(() => data && view && layBook(data, view, entered, targets), [data, view, entered]) };
}

/** The story of a set in a season. */
export function useSetStory(set: string, season = '') {
  const id = useLineID();
  return useQuery({ ...routes.setStory(id, set, season), ...stays });
}

/** The stories of all sets at a place. */
export function usePlaceStory(spot: string, season = '') {
  const id = useLineID();
  return useQuery({ ...routes.placeStory(id, spot, season), ...stays });
}

/** A season's nights told apart, by what was held of an animal; blank is all targets. */
export function useApart(season: string, animal: string) {
  const id = useLineID();
  return useQuery({ ...routes.apart(id, season, animal), placeholderData: keepPreviousData, ...stays });
}

/** The nights of one group of them, make by make. */
export function useHeap(season: string, animal: string, by: string, key: string) {
  const id = useLineID();
  return useQuery({ ...routes.heap(id, season, animal, by, key), ...stays });
}

/** The findings behind what is told of an animal's links, once they are wanted. */
export function useShowed(animal: string, wanted: boolean) {
  const id = useLineID();
  const season = useSeason();
  return useQuery({ ...routes.showed(id, season, animal), enabled: wanted, ...stays });
}

/** Two groups of them compared; asked once both are named. */
export function useCompared(season: string, animal: string, by: string, a: string, b: string) {
  const id = useLineID();
  return useQuery({ ...routes.heapsCompared(id, season, animal, by, a, b), enabled: a !== b, ...stays });
}

/** A day of the line as it is written up. */
export function useDay(date: string) {
  const id = useLineID();
  return useQuery({ ...routes.day(id, date), placeholderData: keepPreviousData, ...stays });
}

/** How a look was put right. */
export function useMends(visit: string) {
  const id = useLineID();
  return useQuery({ ...routes.mends(id, visit) });
}

/** How a make can be made again, on its rim at a bearing. */
export function useRemake(make: string, bearing: string) {
  const id = useLineID();
  return useQuery({ ...routes.remake(id, make, bearing), placeholderData: keepPreviousData, ...stays });
}

/** What would work at a spot for a target. */
export function useWorks(spot: string, target: string) {
  const id = useLineID();
  return useQuery({ ...routes.works(id, spot, target), ...stays });
}

/** What a look may mean, with what somebody went to see since. */
export function useMeans(visit: string, said: string) {
  const id = useLineID();
  return useQuery({ ...routes.means(id, visit, said), placeholderData: keepPreviousData, ...stays });
}

/** What mended in a season, what lures brought, and how often targets come by. */
export function useMended(season: string) {
  const id = useLineID();
  return useQuery({ ...routes.mended(id, season), placeholderData: keepPreviousData, ...stays });
}

/** What there is to work with; what is not said is as the program takes it. */
export interface Having {
  minutes?: number;
  nights?: number;
  traps?: string[];
  without?: string[];
}

/** How often it is asked again while sets are being weighed. */
const weighsMs = 2000;

/** What is worth doing over the line with what there is. */
export function useJobs({ minutes, nights, traps = [], without = [] }: Having) {
  const id = useLineID();
  const asks = new URLSearchParams();
  if (minutes !== undefined) asks.set('minutes', String(minutes));
  if (nights !== undefined) asks.set('nights', String(nights));
  if (traps.length > 0) asks.set('traps', traps.join(','));
  if (without.length > 0) asks.set('without', without.join(','));
  return useQuery({
    ...routes.jobs(id, asks.toString()),
    placeholderData: keepPreviousData,
    refetchInterval: ({ state: { data } }) => (data && data.told < data.of && reachNow() ? weighsMs : false),
    ...stays,
  });
}

/** How it was put right how a make stood. */
export function useCorrections(make: string) {
  const id = useLineID();
  return useQuery({ ...routes.corrections(id, make) });
}

export function useRack() {
  const id = useLineID();
  return useQuery({ ...routes.rack(id), select: hung, ...stays });
}

export function useTrapHistory(trap: string) {
  const id = useLineID();
  return useQuery({ ...routes.history(id, trap) });
}

export function useShelf() {
  const id = useLineID();
  return useQuery({ ...routes.shelf(id), ...stays });
}

export function useKit(day: string) {
  const id = useLineID();
  return useQuery({ ...routes.kit(id, day), ...stays });
}

/**
 * Reads everything about the line anew whenever the program has taken a write; while more of them wait, now and then. When the program has another file open than
 * before, nothing that was read holds any more.
 */
export function useFreshness() {
  const client = useQueryClient();
  const program = useProgram();
  const file = program.data?.file;
  useEffect(() => {
    const paths = new Set<string>();
    let timer: number | undefined;
    const readAnew = () => {
      window.clearTimeout(timer);
      timer = undefined;
      for (const path of paths) for (const touched of touchedBy(path)) void client.invalidateQueries(touched);
      paths.clear();
    };
    const leave = onTaken((path) => {
      paths.add(path);
      if (!keptNow().some(isWaiting)) readAnew();
      else timer ??= window.setTimeout(readAnew, whileSendingMs);
    });
    return () => {
      leave();
      window.clearTimeout(timer);
    };
  }, [client]);
  // While the program is silent the core here is asked, with what was entered laid over what was taken along; and the program again, once it is
  // there.
  useEffect(() => {
    let rest: number | undefined;
    const soon = () => {
      window.clearTimeout(rest);
      rest = window.setTimeout(() => void client.invalidateQueries({ queryKey: ['line'] }), 50);
    };
    let laid = entered();
    const leave = [
      onReach(soon),
      onKept(() => {
        const now = entered();
        if (now !== laid && !reachNow()) soon();
        laid = now;
      }),
    ];
    return () => {
      leave.forEach((one) => one());
      window.clearTimeout(rest);
    };
  }, [client]);
  useEffect(() => {
    const before = localStorage.getItem('read-file');
    if (file === undefined || file === before) return;
    keepLocal('read-file', file);
    if (before !== null) void client.resetQueries({ predicate: (q) => q.queryKey[0] !== 'about' });
  }, [client, file]);
}

/** What was entered, however often it was tried to send it: where that is the same, what is worked out here is the same. */
const entered = (): string => JSON.stringify(keptNow().map((w) => [w.mutation, w.notBefore, w.takenAt, w.refused !== null]));

/** Takes the open season of the line along for when the program is out of reach: when the page rests, after something was taken, when it is seen again. */
export function useAlong(line: string) {
  useEffect(() => {
    let timer: number | undefined;
    const along = (ms: number) => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => void import('./taken').then(({ take }) => take(line)).catch(() => undefined), ms);
    };
    const seen = () => document.visibilityState === 'visible' && along(0);
    along(restsMs);
    const leave = onTaken(() => along(takeAlongMs));
    document.addEventListener('visibilitychange', seen);
    return () => {
      leave();
      window.clearTimeout(timer);
      document.removeEventListener('visibilitychange', seen);
    };
  }, [line]);
}

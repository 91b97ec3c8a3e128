import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useParams } from 'react-router';
import { get } from './api';
import { onSent } from './outbox';
import type { About, Book, Ground, Kind, Kit, LineView, Rack, Shelf, TrapEvent, WeatherView } from './types.gen';

/** The id of the line in the address. */
export function useLineID(): string {
  return useParams().line ?? '';
}

const minute = 60_000;

export const useAbout = () => useQuery({ queryKey: ['about'], queryFn: () => get<About>('/about'), refetchInterval: minute });

export function useLine() {
  const id = useLineID();
  return useQuery({
    queryKey: ['line', id],
    queryFn: () => get<LineView>(`/lines/${id}`),
    placeholderData: keepPreviousData,
    refetchInterval: minute,
  });
}

export function useGround() {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'ground'], queryFn: () => get<Ground>(`/lines/${id}/ground`) });
}

export function useWeather() {
  const id = useLineID();
  return useQuery({
    queryKey: ['line', id, 'weather'],
    queryFn: () => get<WeatherView>(`/lines/${id}/weather`),
    refetchInterval: 5 * minute,
  });
}

/** What can be drawn on the ground. */
export const useKinds = () => useQuery({ queryKey: ['kinds'], queryFn: () => get<Kind[]>('/kinds'), staleTime: Infinity });

export function useBook() {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'book'], queryFn: () => get<Book>(`/lines/${id}/book`) });
}

export function useRack() {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'rack'], queryFn: () => get<Rack>(`/lines/${id}/rack`) });
}

export function useTrapHistory(trap: string) {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'history', trap], queryFn: () => get<TrapEvent[]>(`/lines/${id}/traps/${trap}/history`) });
}

export function useShelf() {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'shelf'], queryFn: () => get<Shelf>(`/lines/${id}/shelf`) });
}

export function useKit(day: string) {
  const id = useLineID();
  return useQuery({ queryKey: ['line', id, 'kit', day], queryFn: () => get<Kit>(`/lines/${id}/kit/${day}`) });
}

/** Reads everything about the line anew whenever the program has taken a write. */
export function useFreshness() {
  const client = useQueryClient();
  useEffect(
    () =>
      onSent((path) => {
        void client.invalidateQueries({ queryKey: ['line'] });
        if (/^\/lines\/[^/]+$/.test(path)) void client.invalidateQueries({ queryKey: ['about'] });
      }),
    [client],
  );
}

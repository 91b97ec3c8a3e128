import { ask, askNear, get, takenAtOf } from './api';
import { heard } from '../kept/clock';
import { setFile } from '../kept/outbox';
import { setWho } from '../kept/who';
import type { Read } from '../kept/overlay';
import type {
  Answer,
  ApartView,
  BeddingInput,
  BeddingOutput,
  BookView,
  CircumstancesAsked,
  CircumstancesView,
  Compared,
  Comparing,
  Correction,
  Day,
  Design,
  Difference,
  DoneView,
  DoorView,
  Ground,
  Kind,
  Kit,
  Lesson,
  LineView,
  JobsView,
  MeansView,
  MendedView,
  Mend,
  MixtureInput,
  MixtureOutput,
  Next,
  NightsView,
  PanAnswer,
  PanQuestion,
  PatternsView,
  Program,
  Question,
  Rack,
  ReachAsked,
  ReachView,
  RemakeView,
  Shelf,
  ShowedView,
  Stance,
  Stood,
  StoriesView,
  TrapEvent,
  WeatherView,
  WorksView,
} from '../types.gen';

/** Reads, and notes when it was asked for. */
async function read<T extends object>(path: string): Promise<Read<T>> {
  const askedMs = Date.now();
  const answer = await get<T>(path);
  const takenAt = takenAtOf(answer);
  return { ...answer, askedMs, ...(takenAt !== undefined && { takenAt }) };
}

async function program(): Promise<Program> {
  const asked = Date.now();
  const found = await get<Program>('/about');
  heard(found.now, found.still, asked);
  setFile(found.file);
  setWho(found.who ?? '');
  return found;
}

/** Reads something of a line. What stands under its key is read anew when a write touches the line. */
const ofLine = <T>(line: string, path: string, ...key: unknown[]) => ({
  queryKey: ['line', line, ...key],
  queryFn: () => get<T>(`/lines/${line}${path}`),
});

/** Likewise, noted when: what was entered since is laid over it. */
const notedOfLine = <T extends object>(line: string, path: string, ...key: unknown[]) => ({
  queryKey: ['line', line, ...key],
  queryFn: () => read<T>(`/lines/${line}${path}`),
});

/** Asks what only computes; its answer hangs on nothing but the question. */
const computed = <T>(key: string, path: string, question: unknown) => ({
  queryKey: [key, question],
  queryFn: () => ask<T>(path, question),
});

const inSeason = (season: string) => (season === '' ? '' : `?season=${season}`);

/** What the pages read and ask, a row each: under which key the answer stands here, by which route it comes, and what it is. */
export const routes = {
  program: () => ({ queryKey: ['about'], queryFn: program }),
  /** How the program is reached from elsewhere, and who is let in. */
  door: () => ({ queryKey: ['door'], queryFn: () => get<DoorView>('/door') }),
  /** What can be drawn on the ground. */
  kinds: () => ({ queryKey: ['kinds'], queryFn: () => get<Kind[]>('/kinds') }),

  line: (line: string) => notedOfLine<LineView>(line, ''),
  ground: (line: string, season: string) => notedOfLine<Ground>(line, `/ground${inSeason(season)}`, 'ground', season),
  book: (line: string, season: string) => notedOfLine<BookView>(line, `/book${inSeason(season)}`, 'book', season),
  setStory: (line: string, set: string, season: string) =>
    ofLine<StoriesView>(line, `/story/${set}${inSeason(season)}`, 'story', season, set),
  placeStory: (line: string, spot: string, season: string) =>
    ofLine<StoriesView>(line, `/stories/${spot}${inSeason(season)}`, 'stories', season, spot),
  apart: (line: string, season: string, animal: string) => {
    const asks = new URLSearchParams({ season, animal });
    return ofLine<ApartView>(line, `/apart?${asks}`, 'apart', season, animal);
  },
  heap: (line: string, season: string, animal: string, by: string, key: string) => {
    const asks = new URLSearchParams({ season, animal, by, key });
    return ofLine<NightsView>(line, `/alike?${asks}`, 'alike', season, animal, by, key);
  },
  showed: (line: string, season: string, animal: string) =>
    ofLine<ShowedView>(line, `/showed/${animal}${inSeason(season)}`, 'showed', season, animal),
  heapsCompared: (line: string, season: string, animal: string, by: string, a: string, b: string) => {
    const asks = new URLSearchParams({ season, animal, by, a, b });
    return ofLine<Compared>(line, `/compare?${asks}`, 'compare', season, animal, by, a, b);
  },
  day: (line: string, date: string) => notedOfLine<Day>(line, `/day/${date}`, 'day', date),
  kit: (line: string, day: string) => notedOfLine<Kit>(line, `/kit/${day}`, 'kit', day),
  weather: (line: string) => ofLine<WeatherView>(line, '/weather', 'weather'),
  rack: (line: string) => ofLine<Rack>(line, '/rack', 'rack'),
  shelf: (line: string) => ofLine<Shelf>(line, '/shelf', 'shelf'),
  story: (line: string, spot: string) => ofLine<Stood[]>(line, `/spots/${spot}/story`, 'stood', spot),
  remake: (line: string, make: string, bearing: string) =>
    ofLine<RemakeView>(line, `/remake/${make}?bearing=${bearing}`, 'remake', make, bearing),
  works: (line: string, spot: string, target: string) => ofLine<WorksView>(line, `/works/${spot}?target=${target}`, 'works', spot, target),
  mended: (line: string, season: string) => ofLine<MendedView>(line, `/mended${inSeason(season)}`, 'mended', season),
  jobs: (line: string, asks: string) => ofLine<JobsView>(line, `/jobs?${asks}`, 'jobs', asks),
  means: (line: string, visit: string, said: string) => ofLine<MeansView>(line, `/means/${visit}?said=${said}`, 'means', visit, said),
  corrections: (line: string, make: string) => ofLine<Correction[]>(line, `/makes/${make}/corrections`, 'corrections', make),
  mends: (line: string, visit: string) => ofLine<Mend[]>(line, `/visits/${visit}/mends`, 'mends', visit),
  history: (line: string, trap: string) => ofLine<TrapEvent[]>(line, `/traps/${trap}/history`, 'history', trap),
  done: (line: string, query: string) => ofLine<DoneView>(line, `/done?${query}`, 'done', query),
  patterns: (line: string, target: string, spot: string) =>
    ofLine<PatternsView>(line, `/patterns/${target}?spot=${spot}`, 'patterns', spot, target),
  design: (line: string, id: string) => ({
    queryKey: ['design', line, id],
    queryFn: async () => {
      const askedMs = Date.now();
      return { askedMs, design: await get<Design>(`/lines/${line}/designs/${id}`) };
    },
  }),
  circumstances: (line: string, at: CircumstancesAsked) => ({
    queryKey: ['line', line, 'circumstances', JSON.stringify(at)], // as text, which is quicker to tell apart while a hand moves
    queryFn: () => ask<CircumstancesView>(`/lines/${line}/circumstances`, at),
  }),
  reach: (line: string, at: ReachAsked) => ({
    queryKey: ['line', line, 'reach', at],
    queryFn: () => ask<ReachView>(`/lines/${line}/reach`, at),
  }),

  bench: (question: Question) => ({ queryKey: ['bench', question], queryFn: () => askNear<Answer>('/bench', question) }),
  /** Takes seconds, and ends when nobody waits for it. */
  compare: (two: Comparing) => ({
    queryKey: ['bench-compare', two],
    queryFn: ({ signal }: { signal: AbortSignal }) => ask<Difference>('/bench/compare', two, signal),
  }),
  /** Likewise. */
  nights: (question: Question) => ({
    queryKey: ['bench-nights', question],
    queryFn: ({ signal }: { signal: AbortSignal }) => ask<Next>('/bench/nights', question, signal),
  }),
  /** Likewise. */
  stance: (question: Question) => ({
    queryKey: ['bench-stance', question],
    queryFn: ({ signal }: { signal: AbortSignal }) => ask<Stance>('/bench/stance', question, signal),
  }),
  lessons: (target: string) => ({ queryKey: ['lessons', target], queryFn: () => get<Lesson[]>(`/bench/lessons/${target}`) }),
  pan: (question: PanQuestion) => computed<PanAnswer>('pan', '/pan', question),
  antifreeze: (bedding: BeddingInput) => computed<BeddingOutput>('antifreeze', '/calc/antifreeze', bedding),
  mixture: (mixture: Partial<MixtureInput>) => computed<MixtureOutput>('mixture', '/calc/mixture', mixture),
};

/** Kinds of which a write touches nothing that stands on the page but itself, which lies over what was read. */
const touchOnlyThemselves = [
  // An arrow key on a pan saves the design: nothing that hangs on the rack, the weather or the record is otherwise.
  'designs',
];

/** What is not true any more, and whether it is read anew at once, or when its page is opened next. */
interface Touched {
  queryKey: string[];
  refetchType: 'active' | 'none';
}

/**
 * What a write touches of what stands here. Where nothing else is said, all of the line.
 */
export function touchedBy(path: string): Touched[] {
  const [, , line, kind = ''] = path.split('/');
  const refetchType = touchOnlyThemselves.includes(kind) ? 'none' : 'active';
  const keys: Touched[] = ['design', 'line'].map((key) => ({ queryKey: [key], refetchType }));
  const names = path === '' || (line !== undefined && kind === ''); // of the line, or of any
  return names ? [...keys, { queryKey: ['about'], refetchType }] : keys;
}

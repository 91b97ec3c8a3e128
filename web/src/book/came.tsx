import { CameRows } from '../draw/came';
import { Seasons } from '../lib/fields/seasons';
import type { BookNow, LineNow } from '../lib/kept/overlay';
import { animalWord, setWord } from '../lib/words/called';
import { accountWords, anewWords } from '../lib/words/learnt';
import { capital } from '../lib/words/words';
import { Chapters } from './chapters';
import { useLeads } from './leads';

/** What the drawings promised and what came, by target and by kind of set. */
export function Came({ book, view }: { book: BookNow; view: LineNow }) {
  const { promised } = book;
  const leads = useLeads();
  const nights = (animal: string, heap?: string) => leads('apart', { animal, by: 'kind', ...(heap && { heap }) });
  const rows = [
    { name: 'all targets', came: promised.all, heads: true, to: nights('') },
    ...promised.targets.flatMap((came) => [
      { name: capital(animalWord(came.animal)), came, heads: true, to: nights(came.animal) },
      ...promised.kinds
        .filter((k) => k.animal === came.animal)
        .map((k) => ({ name: setWord(k.kind), came: k, heads: false, to: nights(k.animal, k.kind) })),
    ]),
  ];
  return (
    <main className="page two">
      <section>
        <Chapters open="came" />
        <Seasons seasons={book.seasons} open={book.open} all />
        <h2>Promised and came</h2>
        <p>{accountWords(promised.all)}</p>
        <p className="quiet">
          Each night that a set stood, its drawing promised so many of each target, by what was known until that midnight. Nights that count
          half are promised half.
        </p>
        {book.anew && <p className="dun">{anewWords(book, view)}</p>}
      </section>
      <section>
        <div className="quiet">
          The dot: what came, and how far that leaves open what was to come. The upright stroke: what was promised.
        </div>
        <CameRows rows={rows} />
      </section>
    </main>
  );
}

import { soils, wetnesses } from '../lib/lists.gen';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { routes } from '../lib/ask/routes';
import { objections } from '../lib/ask/change';
import { useDraft } from '../lib/fields/draft';
import { Measure, Pick, WrongFields } from '../lib/fields/fields';
import { useSettings } from '../lib/settings';
import type { BeddingInput, Shelf } from '../lib/types.gen';
import { show } from '../lib/words/units';
import { agentWord, soilWord, wetnessWord } from '../lib/words/called';

/** How much of an agent keeps bedding from freezing. */
export function InBedding({ shelf }: { shelf: Shelf }) {
  const { system } = useSettings();
  const [b, setB] = useDraft<BeddingInput>('bedding', () => ({
    litres: 4,
    soil: 'loam',
    wetness: 'moist',
    agent: 'calcium_chloride',
    toC: shelf.standC,
  }));
  const set = (change: Partial<BeddingInput>) => setB({ ...b, ...change });
  const { data, error } = useQuery({
    ...routes.antifreeze(b),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  const problems = objections(error);
  return (
    <WrongFields problems={problems}>
      <div className="mixing-grid two-parts">
        <div className="form-grid three">
          <Measure label="bedding" path="litres" kind="bulk" value={b.litres * 1000} onValue={(ml) => set({ litres: ml / 1000 })} />
          <Pick label="of" path="soil" value={b.soil} options={soils} name={soilWord} onValue={(soil) => set({ soil })} />
          <Pick
            label="wetness"
            path="wetness"
            value={b.wetness}
            options={wetnesses}
            name={wetnessWord}
            onValue={(wetness) => set({ wetness })}
          />
          <Pick
            label="with"
            path="agent"
            value={b.agent}
            options={['calcium_chloride', 'salt', 'propylene_glycol', 'glycerin']}
            name={agentWord}
            onValue={(agent) => set({ agent })}
          />
          <Measure label="coldest it must stay loose at" path="toC" kind="temperature" value={b.toC} onValue={(toC) => set({ toC })} />
        </div>
        <div>
          {data && problems.length === 0 && (
            <p>
              <b className="figure-large">
                {data.agentMl > 0 ? show('volume', data.agentMl, system) : show('weight', data.agentG, system)}
              </b>
              <br />
              of {agentWord(b.agent)}. Mix it into {show('bulk', b.litres * 1000, system)} of {b.wetness} {soilWord(b.soil)} (
              {data.percent.toFixed(1)} % of its water).{' '}
              <span className="quiet">
                The soil weighs {show('weight', data.soilG, system)} and holds {show('weight', data.waterG, system)} of water.
              </span>
            </p>
          )}
          <p className="quiet">
            Rain washes it off the metal, so renew it. Salt and chloride eat steel; keep all of it from stock and pets. Dry peat needs none.
          </p>
        </div>
      </div>
    </WrongFields>
  );
}

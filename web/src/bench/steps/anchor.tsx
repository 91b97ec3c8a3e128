import { anchors, dragCovers, ends as endKinds } from '../../lib/lists.gen';
import { Fragment, type ReactNode } from 'react';
import { Choice, Measure, Pick, Tick } from '../../lib/fields/fields';
import { drags, isAside } from '../../lib/words/parts';
import type { Anchor, AnchorKind, End, Rig } from '../../lib/types.gen';
import { show, type System } from '../../lib/words/units';
import { anchorWord, dragCoverWord } from '../../lib/words/called';
import { capital, count } from '../../lib/words/words';

/** An anchor and its chain, in a line. */
export function anchorWords(anchor: Anchor, rig: Rig | undefined, system: System): string {
  const chain = rig?.chainMm ?? 0;
  const swivels = rig?.swivels ? `, ${count(rig.swivels)} ${rig.swivels === 1 ? 'swivel' : 'swivels'}` : '';
  const spring = rig?.spring ? ', shock spring' : '';
  if (drags(anchor.kind)) return `${capital(anchorWord(anchor.kind))} on ${show('ground', chain, system)} of chain${swivels}${spring}`;
  const aside = rig !== undefined && isAside(anchor, rig);
  return `${show('length', anchor.lengthMm ?? 0, system)} ${anchorWord(anchor.kind)}, ${aside ? 'to the side' : 'under the bed'}, ${show('length', chain, system)} chain${swivels}${spring}`;
}

/** What the length of each kind of anchor is called, and what it begins with. What goes with the animal has none. */
const lengthOf: Record<string, { label: string; usualMm: number }> = {
  stake: { label: 'down in the ground', usualMm: 609.6 },
  crossed: { label: 'down in the ground', usualMm: 609.6 },
  cable: { label: 'down in the ground', usualMm: 457.2 },
  staple: { label: 'into the wood', usualMm: 50.8 },
  slide: { label: 'run of the cable', usualMm: 2400 },
};

interface AnchorProps {
  anchor: Anchor;
  path: string;
  onAnchor: (anchor: Anchor) => void;
  /** What is computed of it. */
  holds: ReactNode;
  children: ReactNode;
}

/** What an anchor is, and what it takes to know whether it holds. */
export function AnchorFields({ anchor, path, onAnchor, holds, children }: AnchorProps) {
  const hold = (kind: AnchorKind) => {
    const { lengthMm, ...rest } = anchor;
    const [was, is] = [lengthOf[anchor.kind], lengthOf[kind]];
    const same = was !== undefined && was.label === is?.label;
    onAnchor({ ...rest, kind, ...(is && { lengthMm: (same ? lengthMm : undefined) ?? is.usualMm }) });
  };
  const long = lengthOf[anchor.kind];
  return (
    <>
      {holds}
      <Choice label="held by" path={`${path}.kind`} value={anchor.kind} options={anchors} name={anchorWord} onValue={hold} />
      {long && (
        <Measure
          label={long.label}
          path={`${path}.lengthMm`}
          kind="length"
          value={anchor.lengthMm ?? 0}
          onValue={(lengthMm) => onAnchor({ ...anchor, lengthMm })}
        />
      )}
      {anchor.kind === 'crossed' && (
        <Measure
          label="the other stake, down in the ground"
          path={`${path}.secondMm`}
          kind="length"
          value={anchor.secondMm ?? null}
          onValue={(secondMm) => onAnchor({ ...anchor, secondMm })}
          onBlank={() => onAnchor({ ...anchor, secondMm: undefined })}
        />
      )}
      {driven.includes(anchor.kind) && (
        <>
          {anchor.kind === 'cable' ? (
            <Measure
              label="its plate, long"
              path={`${path}.plateLengthMm`}
              kind="length"
              value={anchor.plateLengthMm ?? null}
              onValue={(plateLengthMm) => onAnchor({ ...anchor, plateLengthMm })}
              onBlank={() => onAnchor({ ...anchor, plateLengthMm: undefined })}
            />
          ) : null}
          {anchor.kind === 'cable' ? (
            <Measure
              label="its plate, wide"
              path={`${path}.plateWidthMm`}
              kind="length"
              value={anchor.plateWidthMm ?? null}
              onValue={(plateWidthMm) => onAnchor({ ...anchor, plateWidthMm })}
              onBlank={() => onAnchor({ ...anchor, plateWidthMm: undefined })}
            />
          ) : (
            <Measure
              label="stake, across"
              path={`${path}.diameterMm`}
              kind="length"
              value={anchor.diameterMm ?? null}
              onValue={(diameterMm) => onAnchor({ ...anchor, diameterMm })}
              onBlank={() => onAnchor({ ...anchor, diameterMm: undefined })}
            />
          )}
          <Measure
            label="pulled by hand, scale read"
            path={`${path}.proofN`}
            kind="force"
            value={anchor.proofN ?? null}
            onValue={(proofN) => onAnchor({ ...anchor, proofN })}
            onBlank={() => onAnchor({ ...anchor, proofN: undefined })}
          />
          <Measure
            label="from the pattern, back"
            path={`${path}.yMm`}
            kind="length"
            value={anchor.yMm}
            onValue={(yMm) => onAnchor({ ...anchor, yMm })}
          />
          <Measure
            label="and to the side"
            path={`${path}.xMm`}
            kind="length"
            value={anchor.xMm}
            onValue={(xMm) => onAnchor({ ...anchor, xMm })}
          />
        </>
      )}
      {anchor.kind === 'staple' && (
        <Tick
          label="the wood is soft or dead"
          path={`${path}.soft`}
          value={anchor.soft}
          onValue={(soft) => onAnchor({ ...anchor, soft })}
        />
      )}
      {anchor.kind === 'slide' && <EndFields anchor={anchor} path={path} onAnchor={onAnchor} />}
      <Pick
        label={drags(anchor.kind) ? 'it can hang in' : 'cover about, for a drag'}
        path={`${path}.cover`}
        value={anchor.cover ?? ''}
        blank="not said"
        options={dragCovers}
        name={dragCoverWord}
        onValue={(cover) => onAnchor({ ...anchor, cover })}
      />
      {(anchor.kind === 'toggle' || anchor.kind === 'log') && (
        <Tick label="tied fast" path={`${path}.tied`} value={anchor.tied} onValue={(tied) => onAnchor({ ...anchor, tied })} />
      )}
      {children}
    </>
  );
}

const driven = ['stake', 'crossed', 'cable'];

/** What holds the two ends of a slide cable; the weaker of them counts. */
function EndFields({ anchor, path, onAnchor }: Omit<AnchorProps, 'children' | 'holds'>) {
  const ends = anchor.ends ?? [];
  const usual = (kind: AnchorKind): End => ({ kind, lengthMm: lengthOf[kind]?.usualMm ?? 0 });
  const hold = (i: number, kind: AnchorKind) =>
    onAnchor({ ...anchor, ends: [0, 1].map((k) => (k === i ? usual(kind) : (ends[k] ?? usual(kind)))) });
  return [0, 1].map((i) => {
    const end = ends[i];
    return (
      <Fragment key={i}>
        <Pick
          label={i === 0 ? 'one end held by' : 'the other by'}
          path={`${path}.ends[${i}].kind`}
          value={end?.kind ?? ''}
          blank="not said"
          options={endKinds}
          name={anchorWord}
          onValue={(kind) => hold(i, kind)}
        />
        {end && (
          <Measure
            label={i === 0 ? 'that one, how deep' : 'the other, how deep'}
            path={`${path}.ends[${i}].lengthMm`}
            kind="length"
            value={end.lengthMm}
            onValue={(lengthMm) => onAnchor({ ...anchor, ends: ends.with(i, { ...end, lengthMm }) })}
          />
        )}
      </Fragment>
    );
  });
}

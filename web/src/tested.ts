/** What the tests call by name: see e2e/logic_test.go. */
import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server.browser';
import { Drawing } from './bench/drawing';
import { CutThrough, floorMm } from './draw/cut';
import { PanScale } from './draw/panscale';
import { PawPrint } from './draw/plan';
import { SettingsProvider } from './lib/settings';

export { Steps } from './bench/design';
export { bedOf, bedSays, bedShort, bedsSay } from './lib/words/beds';
export { floorMm };
/** A set as the bench draws it, cut through alone, a print on its plan, and a pan on the ruler of its window. */
export const drawingOf = (props: Parameters<typeof Drawing>[0]) =>
  renderToStaticMarkup(createElement(SettingsProvider, { children: createElement(Drawing, props) }));
export const cutOf = (props: Parameters<typeof CutThrough>[0]) => renderToStaticMarkup(createElement(CutThrough, props));
export const panScaleOf = (props: Parameters<typeof PanScale>[0]) => renderToStaticMarkup(createElement(PanScale, props));
export const printOf = (props: Parameters<typeof PawPrint>[0]) => renderToStaticMarkup(createElement(PawPrint, props));
export { clocksApart, learn, programTime, heard, nowISO } from './lib/kept/clock';
export { carriedOver, store } from './lib/kept/kept';
export { ask, follow, get } from './lib/ask/api';
export { benchCore, pageCore } from './lib/ask/core';
export { unsent } from './lib/kept/aside';
export { inTurn } from './lib/kept/order';
export {
  act,
  drop,
  dropPath,
  flush,
  keptNow,
  leaveLost,
  lostNow,
  putAway,
  save,
  seen,
  sendAgain,
  sendAllAgain,
  sendHere,
  sendLost,
  setFile,
  write,
} from './lib/kept/outbox';
export { shrunk } from './lib/fields/picture';
export { olderNow, settled } from './lib/kept/standing';
export { uncountedWords, whys } from './lib/words/uncounted';
export { lifted } from './lib/kept/lift';
export { layBook, layGround, layLine } from './lib/kept/overlay';
export { ago, dueWords, instant, localInput } from './lib/words/time';
export { parse, duration, roughly, show, showAbout } from './lib/words/units';
export { anyWord, awayWord, findingWord, metWord } from './lib/words/called';
export { count, many, plural } from './lib/words/words';
export { problemWords, refusalWords, saysWords } from './lib/words/inwords';
export { endedWords, hasEnded } from './lib/words/permission';
export { missingOf } from './round/missing';
export { caughtDetails, caughtWords, foundWords } from './lib/words/looks';
export { thatMorning, timeOf, timeOn, timeWords } from './lib/words/when';
export { closeUp, alongMm, beyond, moved, mouthMm, place, viewOf } from './draw/view';
export { asBuilt } from './lib/kept/asbuilt';
export { terms, unknown } from './lib/words/chain';
export { doubtOf } from './round/doubts';
export { moveRig } from './bench/moves';
export { lacksWords, neverWords, partWords, patternWords } from './lib/words/patterns';
export { remedyWords } from './lib/words/remedies';
export { smellWords } from './bench/steps/smells';
export { guideWords } from './bench/steps/guides';
export { dogWords } from './bench/steps/trap';
export { sightWords } from './lib/words/sight';

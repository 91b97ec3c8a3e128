/** What the keys of records are called on the screen, each kind of key by itself: *lost* of a trap is not *lost* of a catch. */

import type * as lists from '../lists.gen';

/** The words of a list of keys; one without a word does not compile. */
export type Words<L extends readonly string[]> = Record<L[number], string>;

const own = (words: Partial<Record<string, string>>, key: string): string | undefined =>
  Object.hasOwn(words, key) ? words[key] : undefined;

/**
 * The word for a key out of a table that is complete by its type, where the key itself may be any: one that this program does not know was written
 * by a newer one, or stood in a file. It is shown as it is, and never taken for another.
 */
export const wordIn = (words: Partial<Record<string, string>>, key: string): string => own(words, key) ?? `unknown: ${key}`;

/** What keys of a kind are called; a blank says nothing. */
export const call =
  <K extends string>(words: Record<K, string>) =>
  (key: K | ''): string =>
    key === '' ? 'not said' : wordIn(words, key);

/** Animals, and sign of which nobody could say whose it is. */
const animals: Words<typeof lists.animals> & { unsure: string } = {
  coyote: 'coyote',
  red_fox: 'red fox',
  grey_fox: 'grey fox',
  bobcat: 'bobcat',
  raccoon: 'raccoon',
  skunk: 'skunk',
  opossum: 'opossum',
  badger: 'badger',
  dog: 'dog',
  cat: 'house cat',
  unsure: 'not sure',
};

/** What an animal is called. */
export const animalWord = call<string>(animals);

const soils: Words<typeof lists.soils> = {
  loose_sand: 'loose sand',
  firm_sand: 'firm sand',
  loam: 'loam',
  firm_clay: 'firm clay',
  soft_clay: 'soft clay',
  shale: 'shale',
  muck: 'muck',
};
export const soilWord = call(soils);

const wetnesses: Words<typeof lists.wetnesses> = { dry: 'dry', moist: 'moist', wet: 'wet' };
export const wetnessWord = call(wetnesses);

const surfaces: Words<typeof lists.surfaces> = { bare: 'bare ground', grass: 'grass', litter: 'leaf litter' };
export const surfaceWord = call(surfaces);

const signKinds: Words<typeof lists.signKinds> = {
  tracks: 'tracks',
  scat: 'scat',
  scratched: 'scratched ground',
  fence_gap: 'gap under a fence',
  worn_trail: 'worn trail',
  den: 'den',
  kill: 'kill',
  hair: 'hair',
  bed: 'bed',
  none: 'none',
};
export const signWord = call(signKinds);

const signAges: Words<typeof lists.signAges> = {
  last_night: 'fresh (night before)',
  three_days: 'up to three days',
  week: 'about a week',
  older: 'older',
};
export const ageWord = call(signAges);

const holdsTrack: Words<typeof lists.holdsTrack> = { well: 'well', poorly: 'poorly', not: 'not', unknown: 'unknown' };
export const holdsTrackWord = call(holdsTrack);

const metKinds: Words<typeof lists.metKinds> = {
  others_set: 'other trapper’s set',
  own_set: 'a set of mine',
  lure: 'lure',
  catch: 'a catch',
};
export const metWord = call(metKinds);

const featureKinds: Words<typeof lists.featureKinds> = {
  boundary: 'property boundary',
  travel_way: 'travel way',
  road: 'road',
  two_track: 'two-track',
  fence: 'fence',
  stream: 'stream',
  breaks: 'breaks',
  pond: 'pond or water',
  cover: 'cover',
  hay: 'hay',
  field_edge: 'field edge',
  gate: 'gate',
  road_bend: 'bend of a road',
  trail_meets_road: 'trail joins a road',
  intersection: 'intersection',
  creek_crossing: 'creek crossing',
  pond_edge: 'pond edge',
  spring: 'spring',
  ditch: 'ditch',
  saddle: 'saddle',
  terrace: 'terrace',
  culvert: 'culvert',
  bridge: 'bridge',
  crawl_under: 'crawl-under',
  bale_row: 'bale row',
  lone_stone: 'lone stone',
  lone_tree: 'lone tree',
  hollow_log: 'hollow log',
  log: 'log',
  hollow_tree: 'hollow tree',
  thicket_edge: 'thicket edge',
  carcass: 'carcass',
  public_road: 'public road',
  dwelling: 'dwelling',
  peoples_trail: 'trail used by people',
  deep_water: 'deep water',
  steep_bank: 'steep bank',
  machinery_lane: 'machinery lane',
  livestock: 'livestock',
  others_set: 'other trapper’s set',
  seen_from: 'in sight from here',
};
export const featureWord = call(featureKinds);

const fallKinds: Words<typeof lists.fallKinds> = { snow: 'snow', rain: 'rain' };
export const fallWord = call(fallKinds);

const readingKinds: Words<typeof lists.readingKinds> = { frost_probe: 'frost probe', snow_depth: 'snow depth', wind_shift: 'wind shift' };
export const readingWord = call(readingKinds);

const throughs: Words<typeof lists.throughs> = { nearly_all: 'nearly all of them', about_half: 'about half', few: 'few' };
export const throughWord = call(throughs);

const setKinds: Words<typeof lists.setKinds> = {
  dirt_hole: 'dirt hole',
  flat: 'flat',
  trench: 'trench',
  trail: 'trail',
  scent_post: 'scent post',
  tree: 'tree',
  spring: 'spring',
  device: 'device',
};
export const setWord = call(setKinds);

const shows: Words<typeof lists.shows> = { dug_out: 'dug out, soil thrown behind', subtle: 'subtle, soil carried off' };
export const showWord = call(shows);

const backings: Words<typeof lists.backings> = {
  bank: 'bank',
  stone: 'field stone',
  stump: 'stump',
  log: 'log',
  sod: 'sod',
  tuft: 'tuft of grass',
  none: 'none',
};
export const backingWord = call(backings);

const smellKinds: Words<typeof lists.smellKinds> = {
  bait: 'bait',
  food: 'food',
  lure: 'lure',
  gland: 'gland',
  curiosity: 'curiosity',
  musk: 'musk',
  call: 'call',
  urine: 'urine',
  scat: 'scat',
};
export const smellWord = call(smellKinds);

const plugs: Words<typeof lists.plugs> = { none: 'none', grass: 'grass', wool: 'wool' };
export const plugWord = call(plugs);

const guideKinds: Words<typeof lists.guideKinds> = {
  stone: 'field stone',
  clod: 'clod',
  stick: 'stick',
  tuft: 'tuft of grass',
  log: 'log',
  landing: 'stone to land on',
};
export const guideWord = call(guideKinds);

const feels: Words<typeof lists.feels> = { still: 'nothing moves', gives: 'sinks', rocks: 'rocks' };
export const feelWord = call(feels);

const forms: Words<typeof lists.forms> = {
  same_bed: 'in the same bed',
  preserved: 'bed kept, the drag took the trap',
  rim: 'on the rim of its circle',
  new_bed: 'in a new bed',
};
export const formWord = call(forms);

const renewals: Words<typeof lists.renewals> = {
  bait: 'bait is fresh',
  old_wool: 'the old wool is back in the hole',
  circle_soil: 'soil of the circle on top',
};
export const renewalWord = call(renewals);

const trapOuts: Words<typeof lists.trapOuts> = { home: 'home', frozen_in: 'frozen in', lost: 'lost' };
export const trapOutWord = call(trapOuts);

const anchorOuts: Words<typeof lists.anchorOuts> = { out: 'out', left: 'left in', frozen_in: 'frozen in' };
export const anchorOutWord = call(anchorOuts);

const chores: Words<typeof lists.chores> = {
  traps_counted: 'traps counted',
  anchors_out: 'anchors out',
  scent_out: 'bait and scent out',
  hole_filled: 'hole filled',
  guides_off: 'sticks, rag and wire off',
  tracks_brushed: 'tracks brushed out',
  tools_counted: 'tools counted',
  gate_shut: 'gate shut',
};
export const choreWord = call(chores);

const carriers: Words<typeof lists.carriers> = { wool: 'wool', swab: 'swab', stick: 'stick', soil: 'soil', bare: 'nothing, as it is' };
export const carrierWord = call(carriers);

const smellPlaces: Words<typeof lists.smellPlaces> = {
  bottom: 'at the bottom',
  lip: 'on the lip',
  plug: 'on the plug',
  backing: 'on what stands behind',
  face: 'on its face',
  top: 'on top',
  under: 'under it',
  beside: 'beside it',
};
export const smellPlaceWord = call(smellPlaces);

const mouths: Words<typeof lists.mouths> = { slit: 'a slit', long: 'drawn out long' };
export const mouthWord = call(mouths);

const wraps: Words<typeof lists.wraps> = { wool: 'wool', cloth: 'cloth', string: 'string' };
export const wrapWord = call(wraps);

const chainLies: Words<typeof lists.chainLies> = { buried: 'buried', covered: 'covered', open: 'open' };
export const chainLieWord = call(chainLies);

const jawGuards: Words<typeof lists.jawGuards> = {
  stone: 'stone',
  clod: 'clod',
  stick: 'stick',
  backing: 'what stands behind',
  nothing: 'nothing',
};
export const jawGuardWord = call(jawGuards);

const spoils: Words<typeof lists.spoils> = { carried_off: 'carried off', behind: 'behind it', sides: 'to the sides', before: 'before it' };
export const spoilWord = call(spoils);

const handsUsed: Words<typeof lists.handsUsed> = { gloves: 'gloves', bare: 'bare', both: 'both' };
export const handsWord = call(handsUsed);

const betweens: Words<typeof lists.betweens> = {
  brush: 'brush',
  banks: 'banks',
  culvert: 'a culvert',
  fence: 'under a fence',
  ruts: 'ruts',
};
export const betweenWord = call(betweens);

const devices: Words<typeof lists.devices> = { jaws: 'jaws', foot_loop: 'foot snare', cable_loop: 'cable loop' };
export const deviceWord = call(devices);

const panOvers: Words<typeof lists.panOvers> = { cloth: 'cloth', fibreglass: 'fibreglass', waxed_paper: 'waxed paper', leaf: 'leaf' };
export const panOverWord = call(panOvers);

const panUnders: Words<typeof lists.panUnders> = { foam: 'foam plug', polyfill: 'polyfill', wool: 'wool' };
export const panUnderWord = call(panUnders);

const covers: Words<typeof lists.covers> = {
  dry_soil: 'dry soil',
  damp_packed: 'damp soil, packed',
  wet_soil: 'wet soil',
  rain_crust: 'rain crust',
  frozen_soil: 'frozen soil',
  peat: 'dry peat',
  waxed_soil: 'waxed soil',
  sand: 'sand',
  snow_dust: 'snow dust',
  snow_crust: 'snow crust',
  hulls: 'hulls',
  clippings: 'grass clippings',
};
export const coverWord = call(covers);

const agents: Words<typeof lists.agents> = {
  calcium_chloride: 'calcium chloride',
  glycerin: 'glycerin',
  propylene_glycol: 'propylene glycol',
  salt: 'salt',
};
export const agentWord = call(agents);

const partKinds: Words<typeof lists.partKinds> = {
  water: 'mostly water',
  oil: 'oil',
  dry: 'dry',
  calcium_chloride: 'calcium chloride',
  glycerin: 'glycerin',
  propylene_glycol: 'propylene glycol',
  salt: 'salt',
};
export const partWord = call(partKinds);

const measuredBy: Words<typeof lists.measuredBy> = { volume: 'volume', weight: 'weight' };
export const byWord = call(measuredBy);

const anchors: Words<typeof lists.anchors> = {
  stake: 'one stake',
  crossed: 'double-staked',
  cable: 'earth anchor',
  drag: 'drag',
  grapple: 'grapple',
  toggle: 'toggle',
  log: 'log drag',
  staple: 'staple in the tree',
  slide: 'slide cable',
};
export const anchorWord = call(anchors);

const dragCovers: Words<typeof lists.dragCovers> = {
  thick_brush: 'thick brush',
  timber: 'timber',
  edge: 'edge of cover',
  open: 'open ground',
};
export const dragCoverWord = call(dragCovers);

const links: Words<typeof lists.links> = {
  passes: 'passes by',
  notices: 'notices',
  commits: 'commits',
  steps: 'steps on the pan',
  fires: 'fires it',
  held: 'is caught',
};
export const linkWord = call(links);

const trapTypes: Words<typeof lists.trapTypes> = {
  coil_spring: 'coil spring',
  long_spring: 'long spring',
  foot_snare: 'foot snare',
  cable_restraint: 'cable restraint',
};
export const trapTypeWord = call(trapTypes);

const jawForms: Words<typeof lists.jawForms> = { square: 'square', round: 'round' };
export const jawFormWord = call(jawForms);

const aways: Words<typeof lists.aways> = { lent: 'lent', mending: 'mending', lost: 'lost', worn_out: 'worn out' };
export const awayWord = call(aways);

const roles: Words<typeof lists.roles> = { owner: 'owner', partner: 'partner', helper: 'helper' };
export const roleWord = call(roles);

const roleHints: Words<typeof lists.roles> = {
  owner: 'does everything',
  partner: 'does what you do, but for copies, people and the line itself',
  helper: 'walks the round and writes down what is found',
};
export const roleHint = call(roleHints);

const findings: Words<typeof lists.findings> = {
  quiet: 'quiet',
  passed: 'passed by',
  looked: 'looked, stood off',
  stood: 'stood there, missed the pan',
  stepped: 'stepped on it, did not fire',
  dug: 'dug out or flipped',
  robbed: 'robbed',
  rolled: 'rolled on',
  sprung: 'sprung, empty',
  lost: 'sprung, animal lost',
  catch: 'caught',
  gone: 'trap gone',
  locked: 'locked',
  disturbed: 'disturbed, can still fire',
  unable: 'disturbed, cannot fire',
  taken: 'taken by people',
  found: 'trap found again',
  given_up: 'trap given up',
};
export const findingWord = call(findings);

const evidence: Words<typeof lists.evidence> = { track: 'track', scat: 'scat', hair: 'hair', seen: 'seen' };
export const evidenceWord = call(evidence);

const sides: Words<typeof lists.sides> = { front: 'front', left: 'left', right: 'right', behind: 'behind' };
export const sideWord = call(sides);

const bedsFelt: Words<typeof lists.bedsFelt> = {
  dry: 'dry',
  damp: 'damp',
  wet: 'wet',
  flooded: 'flooded',
  crusted: 'crusted',
  frozen: 'frozen',
  snowed_under: 'snowed under',
  rocks: 'rocks a little',
};
export const bedFeltWord = call(bedsFelt);

const conditions: Words<typeof lists.conditions> = { prime: 'prime', rubbed: 'rubbed', mangy: 'mangy', young: 'young', in_heat: 'in heat' };
export const conditionWord = call(conditions);

const sexes: Words<typeof lists.sexes> = { male: 'male', female: 'female', unknown: 'unknown' };
export const sexWord = call(sexes);

const feet: Words<typeof lists.feet> = {
  left_fore: 'left fore',
  right_fore: 'right fore',
  left_hind: 'left hind',
  right_hind: 'right hind',
};
export const footWord = call(feet);

const holds: Words<typeof lists.holds> = { pad: 'by the pad', toe: 'by the toe' };
export const holdWord = call(holds);

/** Things of the kit that are neither a trap's nor a set's. */
const things: Record<string, string> = {
  pan_cover: 'pan cover',
  spare_trap: 'spare trap',
  field_glass: 'binoculars',
  hole_bar: 'bar for the hole',
  mat: 'kneeling mat, and one for spoil',
  gauge: 'pan gauge',
  clippers: 'clippers for blending grass',
  driver: 'anchor driver',
  mattock: 'mattock for frozen ground',
  eye_protection: 'eye protection, frozen ground flies',
  headlamp: 'headlamp',
  receiver: 'GPS receiver',
  drill: 'drill, for anchors through frost',
  clean_gloves: 'clean gloves, for metal and ground',
  lure_gloves: 'other gloves, for lure',
  driver_nut: 'driver nut',
  swivel_and_link: 'swivel and link',
  applicators: 'applicator sticks',
  spike: 'spike, to hold it down',
  stick: 'stick to drive',
  rag: 'light rag',
  pipe: 'pipe',
  wrap_wool: 'wool to wrap a stick',
  wrap_cloth: 'cloth to wrap a stick',
  wrap_string: 'string to wrap a stick',
  wool: 'wool',
  swab: 'swab',
  lure_stick: 'stick for lure',
  moss: 'flat moss',
  broom: 'broom for snow',
  scraper: 'scraper for snow and ice',
  bait_bag: 'bag for bait alone',
  lure_bag: 'bag for lure alone',
  urine_bag: 'bag for urine alone',
};

/** The trade's usual mixtures. */
const mixtures: Record<string, string> = {
  essence_in_oil: 'skunk essence in oil',
  urine_and_glycerin: 'urine and glycerin',
  baits_evenly: 'baits, equal parts',
  brine: 'salt water for the jaws',
};

/** What lies at a place or is asked of one: a thing on the map, a sign, or cover. */
export const landWord = (key: string): string =>
  wordIn({ ...featureKinds, fence_gap: signKinds.fence_gap, scat: signKinds.scat, cover: 'cover' }, key);

const all: Record<string, string>[] = [
  things,
  mixtures,
  animals,
  findings,
  anchors,
  covers,
  dragCovers,
  featureKinds,
  signKinds,
  signAges,
  throughs,
  soils,
  surfaces,
  wetnesses,
  setKinds,
  shows,
  backings,
  smellKinds,
  carriers,
  smellPlaces,
  mouths,
  wraps,
  chainLies,
  jawGuards,
  spoils,
  handsUsed,
  betweens,
  guideKinds,
  devices,
  panOvers,
  panUnders,
  partKinds,
  agents,
  links,
  trapTypes,
  jawForms,
  aways,
  evidence,
  bedsFelt,
  conditions,
  sexes,
  feet,
  holds,
  metKinds,
  readingKinds,
  fallKinds,
  measuredBy,
  plugs,
  sides,
  holdsTrack,
];

/**
 * What a key is called where its kind is not known: in a sentence of the program, in the history of a trap, on the list of the kit. What is no
 * key is somebody's own word, and stays as it is.
 */
export const anyWord = (key: string): string => own(all.find((words) => Object.hasOwn(words, key)) ?? {}, key) ?? key.replaceAll('_', ' ');

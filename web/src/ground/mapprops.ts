import type { Ground, LineView, Side, Sign, WeatherView } from '../lib/types.gen';
import type { Point } from '../lib/plane';

/** What on the map is chosen. */
export type Chosen = { what: 'spot' | 'sign' | 'feature'; id: string } | null;

export interface MapProps {
  view: LineView;
  ground: Ground;
  /** How old each sign is at the date shown, in days; sign that was not there yet is left out. */
  ageOf: (sign: Sign) => number | null;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
  /** A place being marked, or the points of what is being drawn. */
  drawing: Point[];
  drawingKind: string | null;
  /** What a touch on the ground does; null: nothing but choosing. */
  onPlace: ((p: Point) => void) | null;
  onFinish: () => void;
  onBack: () => void;
  weather: WeatherView | undefined;
  /** The places found beside a travel way, the best first. */
  sides: Side[];
  /** A point of what is chosen was moved. */
  onMove: (index: number, p: Point) => void;
  /** Whether the lists beside the map are folded away. */
  folded: boolean;
  onFold: () => void;
}

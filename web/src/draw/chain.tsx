import type { SVGProps } from 'react';
import { chance } from '../lib/words/units';
import { linkWord } from '../lib/words/called';
import type { Link, LinkKey } from '../lib/types.gen';

interface Props {
  label?: string;
  links: Link[];
  weakest: string;
  /** The set lies blind in a way: there is nothing to notice and nothing to come to. */
  blind: boolean;
  /** The key of the link that is opened. */
  open?: string;
  /** Without it the chain is only looked at. */
  onOpen?: (key: string) => void;
}

/** A link that opens, by a touch or by the keyboard. */
const handle = (label: string, opened: boolean, open: () => void): SVGProps<SVGGElement> => ({
  role: 'button',
  tabIndex: 0,
  className: 'link',
  'aria-label': label,
  'aria-expanded': opened,
  onClick: open,
  onKeyDown: (e) => {
    if (e.key !== 'Enter' && e.key !== ' ') return;
    e.preventDefault();
    open();
  },
});

const blindWords: Partial<Record<LinkKey, string>> = { notices: 'takes this very way', commits: 'walks on' };

/** The odds as a chain: a link is as stout as its chance, the weakest is marked, and one that is not known is only outlined. */
export function OddsChain({ label = 'the odds, link by link', links, weakest, blind, open, onOpen }: Props) {
  const says = (key: LinkKey) => (blind ? blindWords[key] : undefined) ?? linkWord(key);
  const step = 34;
  return (
    <svg viewBox={`0 0 262 ${links.length * step + 14}`} width="100%" role="group" aria-label={label}>
      {links.map((link, i) => {
        const weak = link.known && link.key === weakest;
        const stroke = link.known ? 3 + link.chance * 6.5 : 1.3;
        const y = i * step + 24;
        return (
          <g key={link.key}>
            <text
              aria-hidden="true"
              x={60}
              y={y - 2}
              className={link.known ? 'heading toned' : 'toned'}
              color={weak ? 'var(--ember)' : link.known ? 'var(--ink)' : 'var(--soft)'}
            >
              {says(link.key)}
            </text>
            <text className="toned" aria-hidden="true" x={60} y={y + 12} color={weak ? 'var(--ember)' : 'var(--soft)'}>
              {link.known ? `${chance(link.chance)}${link.key === 'passes' ? ' nights' : ''}` : 'not known yet'}
              {weak ? ', weakest' : ''}
            </text>
            <g
              {...(onOpen
                ? handle(
                    `${says(link.key)}: ${link.known ? chance(link.chance) : 'not known yet'}${weak ? ', weakest' : ''}`,
                    open === link.key,
                    () => onOpen(open === link.key ? '' : link.key),
                  )
                : {})}
            >
              <ellipse
                cx={30}
                cy={y}
                rx={13}
                ry={20}
                fill="none"
                stroke={weak ? 'var(--ember)' : link.known ? 'var(--ink)' : 'var(--soft)'}
                strokeWidth={stroke}
                strokeDasharray={link.known ? undefined : '2 3.5'}
              />
              <rect x={0} y={y - 17} width={262} height={step} fill="transparent" />
            </g>
          </g>
        );
      })}
    </svg>
  );
}

/** A code for a camera, dark on light whatever the theme: four blank fields about it, as its standard asks. */
export function Scan({ rows, says }: { rows: string[]; says: string }) {
  const size = rows.length + 8;
  const dark = rows.flatMap((row, y) => row.split('').flatMap((cell, x) => (cell === '#' ? [`M${x + 4} ${y + 4}h1v1h-1z`] : [])));
  return (
    <svg className="scan" viewBox={`0 0 ${size} ${size}`} role="img" aria-label={says} shapeRendering="crispEdges">
      <rect width={size} height={size} fill="#fff" />
      <path d={dark.join('')} fill="#000" />
    </svg>
  );
}

import { quantity } from './format';

interface JarProps {
  free: string;
  reorderPoint: string | null;
  orderUpTo: string | null;
  size?: number;
}

/** The stock gauge: fill is free against the order-up-to level, the dashed line the reorder point. Its shape says what its colour says. */
export function Jar({ free, reorderPoint, orderUpTo, size = 30 }: JarProps) {
  const level = Number(orderUpTo ?? 0);
  const part = level > 0 ? Math.min(1, Number(free) / level) : Number(free) > 0 ? 1 : 0;
  const low = reorderPoint !== null && Number(free) <= Number(reorderPoint);
  const fill = low ? 'var(--quince)' : 'var(--sage)';
  const line = reorderPoint !== null && level > 0 ? 27 - 17 * Math.min(1, Number(reorderPoint) / level) : null;
  return (
    <svg width={(size * 24) / 30} height={size} viewBox="0 0 24 30" role="img" aria-label={jarWords(free, reorderPoint, orderUpTo)}>
      <rect x="6" y="1.5" width="12" height="4" rx="1.2" fill="none" stroke="var(--ink)" strokeWidth="1.2" />
      {part > 0 ? <rect x="4" y={27 - 17 * part} width="16" height={17 * part} fill={fill} opacity="0.85" /> : null}
      <path d="M3.5 10q0-4 3-4h11q3 0 3 4v15q0 3-3 3h-11q-3 0-3-3z" fill="none" stroke={part === 0 ? 'var(--brick)' : 'var(--ink)'} strokeWidth="1.3" />
      {line === null ? null : <line x1="1" x2="23" y1={line} y2={line} stroke="var(--ink)" strokeDasharray="2.5 1.8" strokeWidth="1.2" />}
    </svg>
  );
}

function jarWords(free: string, reorderPoint: string | null, orderUpTo: string | null): string {
  const where =
    reorderPoint === null
      ? ''
      : Number(free) <= Number(reorderPoint)
        ? `, at or below the reorder point of ${reorderPoint}`
        : `, above the reorder point of ${reorderPoint}`;
  return `${quantity(free)} free${orderUpTo === null ? '' : ` of ${orderUpTo}`}${where}`;
}

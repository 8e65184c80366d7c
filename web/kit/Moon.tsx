/** Progress by quantity: empty, quarter, half, three-quarters, full. Always beside words or a number. */
export function Moon({ done, of, size = 18 }: { done: string; of: string; size?: number }) {
  const part = Number(of) > 0 ? Math.min(1, Number(done) / Number(of)) : 0;
  const quarters = part === 0 ? 0 : part === 1 ? 4 : Math.min(3, Math.max(1, Math.round(part * 4)));
  const wedge = ['', 'M10 3.5A6.5 6.5 0 0 1 16.5 10H10z', 'M10 3.5a6.5 6.5 0 0 1 0 13z', 'M10 3.5A6.5 6.5 0 1 1 3.5 10H10z'][quarters];
  return (
    <svg style={{ flex: 'none' }} width={size} height={size} viewBox="0 0 20 20" role="img" aria-label={`${done} of ${of}`}>
      <circle cx="10" cy="10" r="8.4" fill={quarters === 4 ? 'var(--damson)' : 'none'} stroke="var(--damson)" strokeWidth="1.7" />
      {wedge ? <path d={wedge} fill="var(--damson)" /> : null}
    </svg>
  );
}

import { money } from './format';
import { Card, FactList } from './layout';

export interface Figure {
  name: string;
  value: string;
  /** What is to be said with it. */
  more?: string;
  /** That wants somebody's attention. */
  late?: boolean;
}

/** A few figures that tell how something stands. */
export function Figures({ of }: { of: readonly Figure[] }) {
  return (
    <Card pad>
      <FactList>
        {of.map(({ name, value, more, late = false }) => (
          <div key={name}>
            <dt className="quiet">{name}</dt>
            <dd className="strong">{value}</dd>
            <dd className={late ? 'late' : 'quiet'}>{more}</dd>
          </div>
        ))}
      </FactList>
    </Card>
  );
}

/** What is owed, and what of it is late. */
export const owing = (name: string, all: string, late: string, currency: string): Figure => ({
  name,
  value: `${money(all)} ${currency}`,
  more: Number(late) > 0 ? `${money(late)} of it late` : 'none of it late',
  late: Number(late) > 0,
});

import type { ItemRow } from '@larder/contract/catalog';
import { quantity } from '../kit/format';
import { OptionList } from '../kit/OptionList';

interface LineOptionsProps {
  options: readonly ItemRow[];
  many: string;
  active: number;
  take: (item: ItemRow) => void;
}

/** Items that fit what is typed, to be taken. */
export const LineOptions = ({ many, ...list }: LineOptionsProps) => (
  <OptionList
    id="line-options"
    label="Items that fit"
    {...list}
    keyOf={({ id }) => id}
    show={({ sku, name }) => (
      <>
        <span className="strong nowrap">{many} ×</span> <span className="code">{sku}</span> <span>{name}</span>
      </>
    )}
    aside={({ free }) => `${quantity(free)} free`}
  />
);

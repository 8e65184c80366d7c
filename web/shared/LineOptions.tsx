import type { ItemRow } from '@larder/contract/catalog';
import { quantity } from '../kit/format';

interface LineOptionsProps {
  options: readonly ItemRow[];
  many: string;
  active: number;
  take: (item: ItemRow) => void;
}

/** Items that fit what is typed, to be taken. */
export function LineOptions({ options, many, active, take }: LineOptionsProps) {
  return (
    <>
      {options.length > 0 ? (
        <ul id="line-options" role="listbox" aria-label="Items that fit" className="linelist">
          {options.map((item, index) => (
            <li key={item.id} id={`line-option-${index}`} role="option" aria-selected={index === active} onMouseDown={() => take(item)}>
              <span className="strong">{many} ×</span> <span className="code">{item.sku}</span> <span>{item.name}</span>
              <span className="kind">{quantity(item.free)} free</span>
            </li>
          ))}
        </ul>
      ) : null}
    </>
  );
}

import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import Popover from '@mui/material/Popover';
import { useState } from 'react';
import { CellField } from './CellField';
import { Check } from './Check';
import { asMade, isShown, movable, moved, narrowest, ordered, toggled, widest, type ColumnLayout } from './columnLayout';
import { Stack } from './layout';

interface ColumnMenuProps {
  columns: readonly { name: string; text?: unknown; apart?: boolean }[];
  layout: ColumnLayout;
  change: (layout: ColumnLayout) => void;
}

/** Which columns a list shows, in which order and how wide; the same by keyboard as by dragging. */
export function ColumnMenu({ columns, layout, change }: ColumnMenuProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const shown = movable(ordered(columns, layout));
  const widen = (name: string, typed: string) => {
    const { [name]: _was, ...others } = layout.widths;
    const width = Number(typed);
    if (typed.trim() === '') change({ ...layout, widths: others });
    else if (Number.isInteger(width) && width >= narrowest && width <= widest) change({ ...layout, widths: { ...others, [name]: width } });
  };
  return (
    <>
      <Button aria-haspopup="dialog" onClick={(event) => setAnchor(event.currentTarget)}>
        Columns
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Stack pad role="dialog" aria-label="Columns" sx={{ width: 360, gap: 4 }}>
          {shown.map((column, index) => {
            const { name } = column;
            return (
              <Box key={name} sx={{ display: 'grid', gridTemplateColumns: '1fr auto auto 84px', gap: 6, alignItems: 'center' }}>
                <Check label={name} checked={isShown(column, layout)} onChange={() => change(toggled(column, layout))} />
                <Button size="small" disabled={index === 0} aria-label={`Move ${name} to the left`} onClick={() => change(moved(columns, layout, name, -1))}>
                  ←
                </Button>
                <Button
                  size="small"
                  disabled={index === shown.length - 1}
                  aria-label={`Move ${name} to the right`}
                  onClick={() => change(moved(columns, layout, name, 1))}
                >
                  →
                </Button>
                <Width name={name} width={layout.widths[name]} put={(typed) => widen(name, typed)} />
              </Box>
            );
          })}
          <span>
            <Button size="small" onClick={() => change(asMade)}>
              As they were
            </Button>
          </span>
        </Stack>
      </Popover>
    </>
  );
}

/** The width of a column in pixels; empty where it is as wide as what stands in it. */
function Width({ name, width, put }: { name: string; width: number | undefined; put: (typed: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <CellField
      label={`Width of ${name}`}
      number
      placeholder="width"
      value={typed ?? (width === undefined ? '' : String(width))}
      onChange={setTyped}
      onBlur={() => {
        if (typed !== null) put(typed);
        setTyped(null);
      }}
    />
  );
}

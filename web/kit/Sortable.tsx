import { closestCenter, DndContext, PointerSensor, useSensor, useSensors, type Announcements, type UniqueIdentifier } from '@dnd-kit/core';
import { restrictToVerticalAxis } from '@dnd-kit/modifiers';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import IconButton from '@mui/material/IconButton';
import { styled } from '@mui/material/styles';
import TableRow from '@mui/material/TableRow';
import { createContext, use, useCallback, useMemo, type ComponentProps, type ReactNode } from 'react';

interface SortedProps {
  /** The rows, in the order they stand. */
  ids: readonly string[];
  /** What one row is called: "line". */
  noun: string;
  /** Told from which place to which a row was put. */
  move: (from: number, to: number) => void;
  children: ReactNode;
}

// What is the same each time: rows are drawn anew when it changes.
const afterAFewPixels = { activationConstraint: { distance: 4 } };
const upAndDown = [restrictToVerticalAxis];

/** Around a table whose rows are put in order by dragging their handles. By keyboard the table itself moves the row that is typed in. */
export function Sorted({ ids, noun, move, children }: SortedProps) {
  const sensors = useSensors(useSensor(PointerSensor, afterAFewPixels));
  const place = (id: UniqueIdentifier) => ids.indexOf(String(id));
  const nth = (id: UniqueIdentifier) => `${noun} ${place(id) + 1}`;
  const announcements: Announcements = {
    onDragStart: ({ active }) => `Took ${nth(active.id)}.`,
    onDragOver: ({ active, over }) => (over && over.id !== active.id ? `It would be ${nth(over.id)}.` : undefined),
    onDragEnd: ({ active, over }) => (over && over.id !== active.id ? `It is ${nth(over.id)} now.` : `It stays ${nth(active.id)}.`),
    onDragCancel: ({ active }) => `It stays ${nth(active.id)}.`,
  };
  const items = useMemo(() => [...ids], [ids]);
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      modifiers={upAndDown}
      accessibility={{
        announcements,
        screenReaderInstructions: { draggable: `Drag it to put the ${noun} elsewhere, or press Alt with an arrow key while you type in it.` },
      }}
      onDragEnd={({ active, over }) => {
        if (over && over.id !== active.id) move(place(active.id), place(over.id));
      }}
    >
      <SortableContext items={items} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}

type Handles = Pick<ReturnType<typeof useSortable>, 'attributes' | 'listeners' | 'setActivatorNodeRef'>;
const HandleContext = createContext<Handles | null>(null);

/** A row that can be put elsewhere by the handle in it. */
export function SortableRow({
  id,
  measure,
  ...row
}: { id: string; measure: (row: HTMLElement | null) => void } & Omit<ComponentProps<typeof TableRow>, 'id' | 'ref'>) {
  const { attributes, listeners, setActivatorNodeRef, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  const ref = useCallback(
    (element: HTMLTableRowElement | null) => {
      setNodeRef(element);
      measure(element);
    },
    [setNodeRef, measure],
  );
  const handles = useMemo(() => ({ attributes, listeners, setActivatorNodeRef }), [attributes, listeners, setActivatorNodeRef]);
  return (
    <HandleContext value={handles}>
      <TableRow
        {...row}
        ref={ref}
        {...(transform || isDragging
          ? {
              sx: {
                transform: CSS.Transform.toString(transform) ?? 'none',
                transition: transition ?? 'none',
                ...(isDragging ? { position: 'relative', zIndex: 2, bgcolor: 'background.paper' } : {}),
              },
            }
          : {})}
      />
    </HandleContext>
  );
}

/** By what a row is taken; not on the way of Tab through what is typed. */
export function Handle({ label }: { label: string }) {
  const handles = use(HandleContext);
  if (!handles) return null;
  return (
    <Grip size="small" aria-label={label} ref={handles.setActivatorNodeRef} {...handles.attributes} {...handles.listeners} tabIndex={-1} disableRipple>
      <DragIndicatorIcon fontSize="inherit" />
    </Grip>
  );
}
const Grip = styled(IconButton)({ padding: 2, marginLeft: -8, cursor: 'grab', touchAction: 'none', color: 'var(--quiet)' });

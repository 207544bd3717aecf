import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, Trash2 } from 'lucide-react';

/** Where an item stands in the frame, in its pixels. */
export interface Place {
  id: string;
  left: number;
  top: number;
  width: number;
  height: number;
}

interface HandlesProps {
  places: Place[];
  names: Record<string, string>;
  selected: string | null;
  /** While a text is written below them. */
  hidden: boolean;
  onClick: (x: number, y: number) => void;
  onSelect: (id: string) => void;
  onMove: (id: string, to: number) => void;
  onRemove: (id: string) => void;
}

/** What lies over the form: each item can be selected, dragged, moved by keyboard, and taken away. */
export function Handles({ places, names, selected, hidden, onClick, onSelect, onMove, onRemove }: HandlesProps) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = places.map(({ id }) => id);
  const nameOf = (id: string | number) => names[String(id)] ?? '';
  const placeOf = (id: string | number) => `${ids.indexOf(String(id)) + 1} of ${ids.length}`;
  const announcements: Announcements = {
    onDragStart: ({ active }) => `${nameOf(active.id)} is lifted from place ${placeOf(active.id)}.`,
    onDragOver: ({ active, over }) =>
      over === null ? undefined : `${nameOf(active.id)} is at place ${placeOf(over.id)}.`,
    onDragEnd: ({ active, over }) => `${nameOf(active.id)} stands at place ${placeOf(over?.id ?? active.id)}.`,
    onDragCancel: ({ active }) => `${nameOf(active.id)} stays where it was.`,
  };
  const end = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) onMove(String(active.id), ids.indexOf(String(over.id)));
  };
  return (
    <div
      className={`absolute inset-0 ${hidden ? 'invisible' : ''}`}
      onClick={(event) => {
        const { left, top } = event.currentTarget.getBoundingClientRect();
        onClick(event.clientX - left, event.clientY - top);
      }}
    >
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragStart={({ active }) => onSelect(String(active.id))}
        onDragEnd={end}
        accessibility={{
          announcements,
          screenReaderInstructions: {
            draggable:
              'Press Space to lift it, the arrow keys to move it, Space again to put it down, Escape to leave it.',
          },
        }}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <ul aria-label="What stands on the form">
            {places.map((place) => (
              <Handle
                key={place.id}
                place={place}
                name={nameOf(place.id)}
                isSelected={place.id === selected}
                onSelect={() => onSelect(place.id)}
                onRemove={() => onRemove(place.id)}
              />
            ))}
          </ul>
        </SortableContext>
      </DndContext>
    </div>
  );
}

interface HandleProps {
  place: Place;
  name: string;
  isSelected: boolean;
  onSelect: () => void;
  onRemove: () => void;
}

/** Room around an item that belongs to its frame. */
const AROUND = 6;

function Handle({ place, name, isSelected, onSelect, onRemove }: HandleProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: place.id,
  });
  return (
    <li
      ref={setNodeRef}
      className={`group absolute rounded border-2 ${
        isSelected ? 'border-primary' : 'border-transparent hover:border-base-300'
      } ${isDragging ? 'bg-base-100/80 border-primary z-10' : ''}`}
      style={{
        left: place.left - AROUND,
        top: place.top - AROUND,
        width: place.width + 2 * AROUND,
        height: place.height + 2 * AROUND,
        transform: CSS.Translate.toString(transform),
        transition,
      }}
    >
      {isDragging && <span className="px-2 text-sm font-semibold text-base-content">{name}</span>}
      <span
        className={`absolute -top-3 right-1 flex bg-base-100 border border-base-300 rounded ${
          isSelected ? '' : 'opacity-0 group-hover:opacity-100 focus-within:opacity-100'
        }`}
        onClick={(event) => event.stopPropagation()}
      >
        <button className="btn btn-xs btn-ghost h-7" aria-pressed={isSelected} onClick={onSelect}>
          <span className="sr-only">Settings of {name}</span>
          <span aria-hidden="true">Settings</span>
        </button>
        <button
          ref={setActivatorNodeRef}
          className="btn btn-xs btn-ghost btn-square w-7 h-7 cursor-grab"
          {...attributes}
          {...listeners}
          aria-label={`Move ${name}`}
        >
          <GripVertical size={14} aria-hidden="true" />
        </button>
        <button className="btn btn-xs btn-ghost btn-square w-7 h-7" aria-label={`Remove ${name}`} onClick={onRemove}>
          <Trash2 size={14} aria-hidden="true" />
        </button>
      </span>
    </li>
  );
}

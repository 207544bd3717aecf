import { useCombobox } from 'downshift';
import { useState } from 'react';

/** One thing that can be chosen by typing. */
export interface Pick {
  id: string;
  name: string;
  /** Said beside it, such as its value in the sample. */
  hint: string;
}

interface PickerProps<P extends Pick> {
  label: string;
  /** What is chosen now; '' for nothing. */
  shown: string;
  placeholder: string;
  /** What fits to what was typed, the best first. */
  picksFor: (typed: string) => P[];
  onPick: (pick: P) => void;
  /** By which the table finds it, to move between rows. */
  control?: string;
  className?: string;
}

/** The most that a menu takes of the screen, in pixels. */
const MENU_HEIGHT = 290;

/** A field that is filled by typing: what fits is offered below, and chosen by Enter or a click. */
export function Picker<P extends Pick>({
  label,
  shown,
  placeholder,
  picksFor,
  onPick,
  control,
  className = '',
}: PickerProps<P>) {
  // What is being typed; null while nothing is.
  const [typed, setTyped] = useState<string | null>(null);
  // Near the lower edge the menu opens upwards.
  const [above, setAbove] = useState(false);
  const picks = picksFor(typed ?? '');
  const { isOpen, highlightedIndex, getInputProps, getMenuProps, getItemProps, openMenu } = useCombobox<P>({
    items: picks,
    inputValue: typed ?? shown,
    selectedItem: null,
    itemToString: (item) => item?.name ?? '',
    onStateChange: ({ type, selectedItem }) => {
      if (selectedItem) onPick(selectedItem);
      if (
        selectedItem ||
        type === useCombobox.stateChangeTypes.InputBlur ||
        type === useCombobox.stateChangeTypes.InputKeyDownEscape
      )
        setTyped(null);
    },
    stateReducer: (state, { type, changes }) => {
      switch (type) {
        case useCombobox.stateChangeTypes.InputChange:
          // What fits best is chosen by Enter.
          return { ...changes, highlightedIndex: 0 };
        case useCombobox.stateChangeTypes.InputClick:
          // It opens as it is come to: the click by which that was done leaves it open.
          return { ...changes, isOpen: true };
        case useCombobox.stateChangeTypes.InputBlur:
          // Going elsewhere chooses nothing.
          return { ...changes, selectedItem: state.selectedItem };
        default:
          return changes;
      }
    },
  });
  return (
    <div className={`relative ${className}`}>
      <input
        {...getInputProps({
          'aria-label': label,
          // At once, as it is typed: what is set later loses letters of those who type quickly.
          onChange: (event) => setTyped(event.currentTarget.value),
          onFocus: (event) => {
            event.currentTarget.select();
            setAbove(event.currentTarget.getBoundingClientRect().bottom + MENU_HEIGHT > window.innerHeight);
            openMenu();
          },
        })}
        {...(control ? { 'data-control': control } : {})}
        className="input input-sm w-full truncate"
        placeholder={placeholder}
        title={shown}
      />
      <ul
        {...getMenuProps({ 'aria-label': 'Choices' })}
        className={`absolute left-0 ${above ? 'bottom-full' : 'top-full'} z-30 w-80 max-w-[80vw] max-h-72 overflow-y-auto bg-base-100 border border-base-300 shadow-sm ${
          isOpen && picks.length > 0 ? '' : 'hidden'
        }`}
      >
        {isOpen &&
          picks.map((item, index) => (
            <li
              key={item.id}
              {...getItemProps({ item, index })}
              className={`px-2 py-1 cursor-pointer flex justify-between gap-3 ${
                index === highlightedIndex ? 'bg-primary text-primary-content' : ''
              }`}
            >
              <span className="truncate">{item.name}</span>
              <span className={`truncate max-w-32 text-sm ${index === highlightedIndex ? '' : 'text-muted'}`}>
                {item.hint}
              </span>
            </li>
          ))}
      </ul>
    </div>
  );
}

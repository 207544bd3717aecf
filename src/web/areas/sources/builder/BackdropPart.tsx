import { leastVeil } from '../../../../core/contrast/index.ts';
import type { Look } from '../../../../core/forms/index.ts';
import { FigureInput } from '../../../parts/FigureInput.tsx';
import { PictureInput } from './PictureInput.tsx';

interface BackdropPartProps {
  look: Look;
  onChange: (picture: Look['picture']) => void;
  error: string | undefined;
}

const VEIL = 80;

/** A picture behind the form, and how much of the ground lies over it. */
export function BackdropPart({ look, onChange, error }: BackdropPartProps) {
  const { picture, colours, night, width } = look;
  const least = picture === null ? 0 : Math.max(...[colours, night].map((one) => (one === null ? 0 : leastVeil(one))));
  return (
    <section aria-label="Picture behind the form" className="flex flex-col gap-3 border-t border-base-300 pt-3">
      <PictureInput
        label="Picture behind the form"
        url={picture?.url ?? ''}
        shownWidth={width === 0 ? 1280 : width}
        error={error}
        onChange={({ url }) => onChange(url === '' ? null : { url, veil: picture?.veil ?? Math.max(VEIL, least) })}
      />
      {picture && (
        <>
          <FigureInput
            label="Ground over it, in percent"
            most={100}
            value={picture.veil}
            onChange={(veil) => onChange({ ...picture, veil })}
          />
          {picture.veil < least && (
            <p className="text-sm text-error">
              Over the darkest or lightest parts of a picture, words on it cannot be read well (WCAG 2.2).{' '}
              <button className="plain-link" onClick={() => onChange({ ...picture, veil: least })}>
                Take {least} %
              </button>
            </p>
          )}
        </>
      )}
    </section>
  );
}

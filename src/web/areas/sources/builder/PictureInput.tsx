import { ImageUp } from 'lucide-react';
import { useState } from 'react';
import { PICTURE_BYTES, type OwnFileView } from '../../../../contract/ownFiles.ts';
import { ownPicture, pictureAddress } from '../../../../core/forms/index.ts';
import { inBytes } from '../../../../core/values/index.ts';
import { useAddOwnFile, useOwnFiles } from '../../../data/ownFiles.ts';
import { FileButton } from '../../../parts/FileButton.tsx';
import { readPicture, shrinkPicture, type ChosenPicture } from '../../../parts/shrinkPicture.ts';
import { ActionError } from '../../../parts/States.tsx';

/** A picture, and how large it is where that is known. */
export interface PickedPicture {
  url: string;
  width: number;
  height: number;
}

interface PictureInputProps {
  label: string;
  /** '' for none. */
  url: string;
  /** How wide it is shown, in CSS pixels. */
  shownWidth: number;
  error?: string | undefined;
  onChange: (picture: PickedPicture) => void;
}

/** Sharp screens have about twice the pixels. */
const SHARP = 2;

/** Chooses a picture: one of yours, a new one from this device, or any by its address. */
export function PictureInput({ label, url, shownWidth, error, onChange }: PictureInputProps) {
  const files = useOwnFiles();
  const add = useAddOwnFile();
  const [heavy, setHeavy] = useState<ChosenPicture | null>(null);
  const [trouble, setTrouble] = useState('');
  const pictures = files.data?.filter(({ width }) => width > 0) ?? [];
  const own = pictures.find((one) => ownPicture(one.id) === url);
  const enough = SHARP * shownWidth;
  const take = ({ id: file, width, height }: OwnFileView) => onChange({ url: ownPicture(file), width, height });
  const upload = (file: Blob, name: string) => {
    setHeavy(null);
    add.mutate({ file, name }, { onSuccess: take });
  };
  const choose = async (file: File) => {
    setTrouble('');
    const picture = await readPicture(file);
    if (!picture) setTrouble('This is no picture that browsers show. Take a PNG, JPEG, WebP, GIF or AVIF.');
    else if (file.size > PICTURE_BYTES) setHeavy(picture);
    else upload(file, file.name);
  };
  const shrink = async ({ file, ...size }: ChosenPicture) => {
    const smaller = await shrinkPicture({ file, ...size }, enough, PICTURE_BYTES);
    if (smaller) upload(smaller, `${file.name.replace(/\.\w+$/, '')}.webp`);
    else setTrouble('It stays too heavy. Make it smaller where it was made, and choose it again.');
  };
  /** Of one by its address, the size is found out by loading it. */
  const measure = (address: string) => {
    const image = new Image();
    image.onload = () => onChange({ url: address, width: image.naturalWidth, height: image.naturalHeight });
    image.src = address;
  };
  return (
    <div role="group" aria-label={label} className="flex flex-col gap-2">
      <span className="font-semibold">{label}</span>
      {url !== '' && (
        <img
          src={pictureAddress('', url)}
          alt=""
          className="max-h-28 max-w-full self-start border border-base-300 object-contain"
        />
      )}
      <div className="flex flex-wrap items-center gap-2">
        <FileButton
          icon={<ImageUp size={15} aria-hidden="true" />}
          busy={add.isPending}
          accept="image/*"
          onFile={(file) => void choose(file)}
        />
        {url !== '' && (
          <button className="btn btn-sm btn-ghost" onClick={() => onChange({ url: '', width: 0, height: 0 })}>
            Take it away
          </button>
        )}
      </div>
      {heavy && (
        <div role="alert" className="text-sm border border-base-300 rounded p-2 flex flex-col gap-2">
          <p>
            This picture has {inBytes(heavy.file.size)} ({heavy.width} × {heavy.height} px). At most{' '}
            {inBytes(PICTURE_BYTES)} are taken, so that phones show it at once. It is shown {shownWidth} px wide at
            most: {Math.min(enough, heavy.width)} px are enough, also for sharp screens.
          </p>
          <span className="flex gap-2">
            <button className="btn btn-sm btn-primary" onClick={() => void shrink(heavy)}>
              Shrink it to {Math.min(enough, heavy.width)} px
            </button>
            <button className="btn btn-sm" onClick={() => setHeavy(null)}>
              Leave it
            </button>
          </span>
        </div>
      )}
      {trouble !== '' && (
        <p role="alert" className="text-error font-semibold">
          {trouble}
        </p>
      )}
      <ActionError error={add.error} />
      {pictures.length > 0 && (
        <select
          className="select select-sm w-full"
          aria-label={`${label}: one of yours`}
          value={own?.id ?? ''}
          onChange={({ target }) => {
            const picked = pictures.find((one) => one.id === target.value);
            if (picked) take(picked);
          }}
        >
          <option value="">one of yours</option>
          {pictures.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name} ({one.width} × {one.height}, {inBytes(one.size)})
            </option>
          ))}
        </select>
      )}
      <input
        className="input input-sm w-full"
        aria-label={`${label}: address`}
        aria-invalid={Boolean(error)}
        value={own ? '' : url}
        placeholder="or its address, from https:// on"
        onChange={({ target }) => onChange({ url: target.value.trim(), width: 0, height: 0 })}
        onBlur={({ target }) => {
          if (target.value !== '') measure(target.value);
        }}
      />
      {error && <p className="text-error font-semibold">{error}</p>}
    </div>
  );
}

import { ArrowLeft } from 'lucide-react';

/** Above the settings of one thing: what it is, and the way back to those of the whole form. */
export function SettingsHead({ title, onClose }: { title: string; onClose: () => void }) {
  return (
    <div className="flex items-center gap-2 px-3 py-2 border-b border-base-300 sticky top-0 bg-base-100 z-10">
      <button className="btn btn-sm btn-ghost" onClick={onClose}>
        <ArrowLeft size={15} aria-hidden="true" /> Form
      </button>
      <h2 className="font-semibold truncate">{title}</h2>
    </div>
  );
}

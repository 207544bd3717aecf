interface PublishOrCancelProps {
  disabled: boolean;
  onPublish: () => void;
  onCancel: () => void;
}

/** The end of a dialog that asks before changes go live. */
export const PublishOrCancel = ({ disabled, onPublish, onCancel }: PublishOrCancelProps) => (
  <div className="flex gap-2">
    <button className="btn btn-primary" disabled={disabled} onClick={onPublish}>
      Publish
    </button>
    <button className="btn" onClick={onCancel}>
      Cancel
    </button>
  </div>
);

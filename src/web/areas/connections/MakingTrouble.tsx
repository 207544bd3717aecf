import type { useMakeAll } from '../../data/connections.ts';
import { ActionError } from '../../parts/States.tsx';

/** Why several things could not be made there: none of them, or from one of them on. */
export function MakingTrouble({ making: { error, data } }: { making: ReturnType<typeof useMakeAll> }) {
  return (
    <>
      <ActionError error={error} />
      {data?.trouble && (
        <p role="alert" className="text-error font-semibold">
          {data.trouble}
        </p>
      )}
    </>
  );
}

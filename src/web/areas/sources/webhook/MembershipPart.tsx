import type { MembershipPaths, RegistrationDocument } from '../../../../core/intake/index.ts';
import { Field } from '../../../parts/Field.tsx';
import { ZoneInput } from '../../../parts/ZoneInput.tsx';
import { PLACES } from './places.ts';

interface MembershipPartProps {
  document: RegistrationDocument;
  set: (part: Partial<RegistrationDocument>) => void;
  about: (pointer: string) => string | undefined;
}

const PARTS: Record<keyof MembershipPaths, [label: string, example: string]> = {
  level: ['Its level', '$.plan.name'],
  begins: ['Its first day', '$.plan.since'],
  ends: ['Its last day', '$.plan.until'],
};

/** Where a membership stands in what the site tells, and whose days its first and last ones are. */
export function MembershipPart({ document, set, about }: MembershipPartProps) {
  const { fields, membershipField, membershipPaths: paths, zone, lapsedKind } = document;
  const field = fields.find(({ id }) => id === membershipField);
  return (
    <section aria-labelledby="membership" className="flex flex-col gap-3">
      <h3 id="membership" className="text-lg font-semibold">
        Membership
      </h3>
      <p className="text-muted">
        As one object with level, begins and ends it is found by the path of “{field?.label ?? membershipField}”. Where
        the site tells its parts apart, say where each stands; days may be days or moments.
      </p>
      <div className="grid gap-4 sm:grid-cols-3">
        {(Object.keys(PARTS) as (keyof MembershipPaths)[]).map((part) => (
          <Field key={part} label={PARTS[part][0]} error={about(`/membershipPaths/${part}`)}>
            <input
              className="input w-full font-mono"
              value={paths[part]}
              spellCheck={false}
              placeholder={PARTS[part][1]}
              list={PLACES}
              onChange={({ target }) => set({ membershipPaths: { ...paths, [part]: target.value.trim() } })}
            />
          </Field>
        ))}
      </div>
      <div className="grid gap-4 sm:grid-cols-2">
        <Field
          label="Time zone of these days"
          help="The last day counts. If nobody renews, Iwashi ends it after the last day."
          error={about('/zone')}
        >
          <ZoneInput zone={zone} onChange={(next) => set({ zone: next })} />
        </Field>
        <Field
          label="Kind of event when one ends by itself"
          help="Beside the kinds of events that the site tells: routes ask for it by this name."
          error={about('/lapsedKind')}
        >
          <input
            className="input w-full font-mono"
            value={lapsedKind}
            spellCheck={false}
            onChange={({ target }) => set({ lapsedKind: target.value })}
          />
        </Field>
      </div>
    </section>
  );
}

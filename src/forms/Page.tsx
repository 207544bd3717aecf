import type { FormPage } from '../core/forms/index.ts';
import { Block } from './Block.tsx';
import { conditionOf } from './conditionOf.ts';
import { Question } from './questions/Question.tsx';
import type { FormShown } from './shown.ts';
import type { Say } from './words/index.ts';

interface PageProps {
  page: FormPage;
  /** Whether the form has but this one. */
  alone: boolean;
  shown: FormShown;
  say: Say;
}

/** One page of a form. Without script all of them stand below each other; the script shows one at a time. */
export function Page({ page, alone, shown: { face, filled, language }, say }: PageProps) {
  const { id, title, items, skips } = page;
  const own = alone
    ? {}
    : {
        'data-page': id,
        ...conditionOf(page),
        ...(skips.length === 0 ? {} : { 'data-skips': JSON.stringify(skips) }),
        role: 'group',
        'aria-label': title || undefined,
      };
  return (
    <div className="fields" {...own}>
      {title !== '' && (
        <h3 data-block={id} tabIndex={-1} dir="auto">
          {title}
        </h3>
      )}
      {items.map((item) =>
        item.kind === 'question' ? (
          <Question
            key={item.id}
            question={item}
            paged={!alone}
            filled={filled}
            labels={face.look.labels}
            language={language}
            say={say}
          />
        ) : (
          <Block key={item.id} item={item} />
        ),
      )}
    </div>
  );
}

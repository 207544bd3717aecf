import type { ChatLineView } from '../../../../contract/chat.ts';
import { ExactTime } from '../../../parts/Time.tsx';

const WHO: Record<ChatLineView['by'], string> = { us: 'The chat', visitor: 'Visitor', colleague: '' };

/** What was said in a conversation, in its order. */
export function SaidLines({ said }: { said: ChatLineView[] }) {
  return (
    <ol className="flex flex-col gap-2">
      {said.map(({ number, by, name, text, link, at }) => (
        <li key={number} className={`max-w-[80%] ${by === 'visitor' ? 'self-start' : 'self-end'}`}>
          <span className="text-muted text-sm">
            {by === 'colleague' ? name : WHO[by]}, <ExactTime at={at} />
          </span>
          <p
            className={`px-3 py-1.5 rounded whitespace-pre-wrap break-words ${by === 'visitor' ? 'bg-base-200' : by === 'colleague' ? 'border-2 border-primary' : 'border border-base-300'}`}
          >
            {text}
            {link && (
              <a className="plain-link block" href={link.url} target="_blank" rel="noreferrer">
                {link.text || link.url}
              </a>
            )}
          </p>
        </li>
      ))}
    </ol>
  );
}

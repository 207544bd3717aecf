import type { SeenBlock } from '../core/forms/index.ts';
import { conditionOf } from './conditionOf.ts';

/** What stands between questions. */
export function Block({ item }: { item: SeenBlock }) {
  const own = { 'data-block': item.id, ...conditionOf(item) };
  switch (item.kind) {
    case 'heading':
      return (
        <h3 {...own} dir="auto">
          {item.text}
        </h3>
      );
    case 'text':
      return (
        <div {...own} dir="auto">
          {item.text.split(/\n\s*\n/).map((paragraph, at) => (
            <p key={at}>{paragraph}</p>
          ))}
        </div>
      );
    case 'picture':
      return (
        <img {...own} src={item.url} alt={item.alt} width={item.width || undefined} height={item.height || undefined} />
      );
    case 'divider':
      return <hr {...own} />;
    default:
      return item satisfies never;
  }
}

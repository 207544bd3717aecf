import type { ShownItem } from '../core/forms/index.ts';

/** What stands between questions. */
export function Block({ item }: { item: Exclude<ShownItem, { kind: 'question' }> }) {
  switch (item.kind) {
    case 'heading':
      return (
        <h3 data-block={item.id} dir="auto">
          {item.text}
        </h3>
      );
    case 'text':
      return (
        <div data-block={item.id} dir="auto">
          {item.text.split(/\n\s*\n/).map((paragraph, at) => (
            <p key={at}>{paragraph}</p>
          ))}
        </div>
      );
    case 'picture':
      return <img data-block={item.id} src={item.url} alt={item.alt} />;
    case 'divider':
      return <hr data-block={item.id} />;
    default:
      return item satisfies never;
  }
}

import {
  ELAPSED_FIELD,
  LATER_FIELD,
  PAGE_FIELD,
  pagesOf,
  REFERRER_FIELD,
  TRAP_FIELD,
  VERSION_FIELD,
} from '../core/forms/index.ts';
import { Page } from './Page.tsx';
import { heldBy, type FormShown } from './shown.ts';
import { wordsIn } from './words/index.ts';

/** The line of script of a form that stands on a page of others: how long it was open, and which page it is. */
const SCRIPT = `document.currentScript.closest('form').addEventListener('submit',function(){var e=this.elements;e['${ELAPSED_FIELD}'].value=Math.round(performance.now()/100)/10;e['${PAGE_FIELD}'].value=location.href;e['${REFERRER_FIELD}'].value=document.referrer})`;

/** A form as visitors see it, wherever that is. It works without script. */
export function FormView(shown: FormShown) {
  const { action, face, language, filled, carries, version, doing } = shown;
  const { title, fields, button, resetLabel, statement, goOnLater } = face;
  const pages = pagesOf(face);
  const isPaged = pages.length > 1;
  const branches = isPaged || pages.some(({ items }) => items.some(({ shownIf }) => shownIf !== null));
  const say = wordsIn(language);
  const brings = carries === 'script' ? [PAGE_FIELD, REFERRER_FIELD].map((name) => [name, ''] as const) : carries;
  const ofVersion = version === undefined ? [] : [[VERSION_FIELD, String(version)] as const];
  const hidden = fields.filter(({ widget }) => widget === 'hidden');
  const hasFiles = fields.some(({ type }) => type === 'file');
  return (
    <>
      {title !== '' && <h2 dir="auto">{title}</h2>}
      <Summary fields={fields} filled={filled} say={say} />
      <form
        action={action}
        method="post"
        acceptCharset="utf-8"
        encType={hasFiles ? 'multipart/form-data' : undefined}
        // Browsers would ask for what does not belong to the answers.
        noValidate={carries !== 'script' || branches}
        data-sending={say('sending')}
        data-waiting={say('waiting')}
        data-at={filled.at}
        data-meant={fields.some(({ type }) => type === 'email') ? say('meant', { address: '{address}' }) : undefined}
      >
        {isPaged && (
          <p className="progress" data-words={say('progress', { page: '{page}', pages: '{pages}' })} hidden>
            <progress max={pages.length} value={1} aria-hidden="true" /> <span />
          </p>
        )}
        {pages.map((page) => (
          <Page key={page.id} page={page} alone={!isPaged} shown={shown} say={say} />
        ))}
        <div hidden>
          <label>
            {say('leaveEmpty')} <input type="text" name={TRAP_FIELD} tabIndex={-1} autoComplete="off" />
          </label>
        </div>
        {hidden.map((field) => (
          <input
            key={field.id}
            type="hidden"
            name={field.key}
            value={heldBy(field, filled)[0] || field.preset}
            data-field={branches ? field.id : undefined}
          />
        ))}
        {[[ELAPSED_FIELD, ''] as const, ...ofVersion, ...brings].map(([name, value]) => (
          <input key={name} type="hidden" name={name} value={value} />
        ))}
        {statement !== '' && (
          <p className="statement" dir="auto">
            {statement}
          </p>
        )}
        <div className="after">
          {isPaged && (
            <>
              <button type="button" data-go="back" hidden>
                {say('back')}
              </button>
              <button type="button" data-go="on" hidden>
                {say('next')}
              </button>
            </>
          )}
          <button type="submit" dir="auto" disabled={doing === 'sending'}>
            {button}
          </button>
          {goOnLater && (
            <button type="submit" name={LATER_FIELD} value="yes">
              {say('later.button')}
            </button>
          )}
          {resetLabel !== '' && (
            <button type="reset" dir="auto">
              {resetLabel}
            </button>
          )}
        </div>
        <p className="said" role="status" hidden={doing === undefined}>
          {doing && say(doing)}
        </p>
        {carries === 'script' && <script dangerouslySetInnerHTML={{ __html: SCRIPT }} />}
      </form>
    </>
  );
}

type SummaryProps = Pick<FormShown, 'filled'> & Pick<FormShown['face'], 'fields'> & { say: ReturnType<typeof wordsIn> };

/** What keeps it from being sent, each with a link to its question. */
function Summary({ fields, filled: { prefix, wrong, failed }, say }: SummaryProps) {
  const issues = Object.entries(wrong);
  if (failed)
    return (
      <div className="summary" role="alert" tabIndex={-1}>
        <strong>{say('failed')}</strong>
      </div>
    );
  if (issues.length === 0) return null;
  return (
    <div className="summary" role="alert" tabIndex={-1}>
      <strong>{say(issues.length === 1 ? 'again.one' : 'again.several')}</strong>
      <ul>
        {issues.map(([name, message]) => (
          <li key={name}>
            <a href={`#${prefix}-${name}`}>{fields.find(({ key }) => key === name)?.label ?? name}</a>: {message}
          </li>
        ))}
      </ul>
    </div>
  );
}

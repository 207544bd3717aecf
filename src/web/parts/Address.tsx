import { Fragment } from 'react';

/** An email address, which may break before its @ and its dots but nowhere else. */
export function Address({ text }: { text: string }) {
  return (
    <>
      {text.split(/(?=[@.])/).map((part, index) => (
        <Fragment key={index}>
          {index > 0 && <wbr />}
          {part}
        </Fragment>
      ))}
    </>
  );
}

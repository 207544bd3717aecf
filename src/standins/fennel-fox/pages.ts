import { html, raw } from 'hono/html';
import type { Channel, Customer, Order, ShopState } from './state.ts';

const STYLE = `body{font:16px/1.5 "Trebuchet MS",sans-serif;margin:0;color:#2b2a22;background:#f6f4ea}header{background:#5d6b23;color:#fff;padding:.8rem 1.5rem}header a{color:#fff;margin-right:1rem}main{max-width:62rem;margin:0 auto;padding:1rem 1.5rem}table{border-collapse:collapse;width:100%}th,td{text-align:left;padding:.35rem .7rem;border-bottom:1px solid #d5d0b4;vertical-align:top}input,button{font:inherit;padding:.25rem .5rem}form p{margin:.5rem 0}form.inline{display:inline}small{color:#615d45}label.box{display:block;margin:.4rem 0}`;

const frame = (state: ShopState, title: string, body: ReturnType<typeof html>) =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>${state.shop.name}: ${title}</title>
        <style>
          ${raw(STYLE)}
        </style>
      </head>
      <body>
        <header>
          <strong>${state.shop.name}</strong> · run with Fennel &amp; Fox · <a href="/">Check-out</a>
          <a href="/register">Register</a> <a href="/account">My account</a> <a href="/desk">Shopkeeper's desk</a>
        </header>
        <main>${body}</main>
      </body>
    </html>`;

const who = (buyer: Partial<Record<'given' | 'family' | 'address' | 'phone', string>>) =>
  html`<p>
      <label>First name <input name="given" value="${buyer.given ?? ''}" required /></label>
      <label>Last name <input name="family" value="${buyer.family ?? ''}" /></label>
    </p>
    <p>
      <label>Email <input name="address" type="email" value="${buyer.address ?? ''}" required /></label>
      <label>Phone <input name="phone" type="tel" value="${buyer.phone ?? ''}" /></label>
    </p>`;

const boxes = (state: ShopState) =>
  state.boxes
    .filter(({ shown }) => shown)
    .map(
      ({ channel, words }) =>
        html`<label class="box"><input type="checkbox" name="agree" value="${channel}" /> ${words}</label>`,
    );

/** What there is to buy, and the check-out. */
export const checkoutPage = (state: ShopState, buyer: Record<string, string>) =>
  frame(
    state,
    'check-out',
    html`<h1>Check-out</h1>
      <form method="post" action="/buy">
        <table>
          <tbody>
            ${state.products.map(
              ({ sku, name, each }, index) =>
                html`<tr>
                  <td>${name}</td>
                  <td>${each} ${state.shop.currency}</td>
                  <td>
                    <label
                      >How many <input name="${sku}" type="number" min="0" max="20" value="${index === 0 ? 1 : 0}"
                    /></label>
                  </td>
                </tr>`,
            )}
          </tbody>
        </table>
        ${who(buyer)} ${boxes(state)}
        <label class="box"><input type="checkbox" name="trial" value="yes" /> Pay with the trial card</label>
        <p>
          <button>Buy now</button>
          <button formaction="/leave" formnovalidate>Leave the basket</button>
        </p>
      </form>`,
  );

export const boughtPage = (state: ShopState, order: Order) =>
  frame(
    state,
    'thank you',
    html`<h1>Thank you</h1>
      <p>
        Order ${order.no}, ${order.total.amount}
        ${order.total.currency}${order.trial ? ', paid with the trial card' : ''}.
      </p>
      <p><a href="/">Buy something else</a></p>`,
  );

export const leftPage = (state: ShopState) =>
  frame(
    state,
    'basket',
    html`<h1>Your basket waits for you</h1>
      <p><a href="/">Back to it</a></p>`,
  );

export const registerPage = (state: ShopState, done: boolean) =>
  frame(
    state,
    'register',
    html`<h1>Register</h1>
      ${done ? html`<p>You are registered.</p>` : ''}
      <form method="post" action="/register">
        ${who({})} ${boxes(state)}
        <p><button>Register</button></p>
      </form>`,
  );

const CHANNEL_NAMES: Record<Channel, string> = { email: 'by email', sms: 'by text message' };

/** Where customers see, and change, what they agreed to. */
export const accountPage = (state: ShopState, customer: Customer | null, address: string) =>
  frame(
    state,
    'my account',
    html`<h1>My account</h1>
      <form>
        <label>Email <input name="address" type="email" value="${address}" /></label> <button>Show</button>
      </form>
      ${
        customer
          ? html`<p>
                ${customer.name.given} ${customer.name.family}: ${customer.bought.orders} orders,
                ${customer.bought.spent.amount} ${customer.bought.spent.currency}
              </p>
              <ul>
                ${(['email', 'sms'] as const).map(
                  (channel) =>
                    html`<li>
                      You hear from us ${CHANNEL_NAMES[channel]}:
                      <strong>${customer.answers[channel].says ?? 'not asked'}</strong>
                      <form class="inline" method="post" action="/account/${customer.no}/${channel}">
                        <button name="says" value="${customer.answers[channel].says === 'yes' ? 'no' : 'yes'}">
                          ${customer.answers[channel].says === 'yes' ? 'Stop it' : 'Start it'}
                        </button>
                      </form>
                    </li>`,
                )}
              </ul>`
          : address === ''
            ? ''
            : html`<p>Nobody is known by this address.</p>`
      }`,
  );

/** What the shopkeeper sees: customers, orders, who is told, the boxes at the check-out. */
export function deskPage(state: ShopState) {
  const orders = [...state.orders].reverse().slice(0, 50);
  const nameOf = new Map(state.customers.map(({ no, address }) => [no, address]));
  return frame(
    state,
    "shopkeeper's desk",
    html`<h1>Shopkeeper's desk</h1>
      <h2>Boxes at the check-out</h2>
      ${state.boxes.map(
        ({ channel, words, shown }) =>
          html`<form method="post" action="/desk/boxes/${channel}">
            <p>${words} <small>${shown ? 'shown' : 'not shown'}</small> <button>${shown ? 'Hide' : 'Show'}</button></p>
          </form>`,
      )}
      <h2>Who is told</h2>
      ${state.bells.length === 0 ? html`<p>Nobody.</p>` : ''}
      ${state.bells.map(
        ({ id, address, kinds }) =>
          html`<form method="post" action="/desk/bells/${id}">
            <p>${new URL(address).host} <small>${kinds.join(', ')}</small> <button>Remove</button></p>
          </form>`,
      )}
      <h2>${state.orders.length} orders</h2>
      <table>
        <tbody>
          ${orders.map(
            ({ no, customer, lines, total, refunded, trial, on }) =>
              html`<tr>
                <td>${no}${trial ? ' (trial)' : ''}</td>
                <td>${on.slice(0, 16).replace('T', ' ')}</td>
                <td>${nameOf.get(customer) ?? ''}</td>
                <td>${lines.map(({ name, count }) => `${count} ${name}`).join(', ')}</td>
                <td>${total.amount} ${total.currency}</td>
                <td>
                  ${
                    refunded
                      ? 'refunded'
                      : html`<form method="post" action="/desk/orders/${no}"><button>Refund</button></form>`
                  }
                </td>
              </tr>`,
          )}
        </tbody>
      </table>
      <h2>${state.customers.length} customers</h2>
      <table>
        <tbody>
          ${[...state.customers]
            .reverse()
            .slice(0, 100)
            .map(
              ({ no, address, name, answers, bought }) =>
                html`<tr>
                  <td>${no}</td>
                  <td><a href="/account?address=${encodeURIComponent(address)}">${address}</a></td>
                  <td>${name.given} ${name.family}</td>
                  <td>email: ${answers.email.says ?? 'not asked'}, text message: ${answers.sms.says ?? 'not asked'}</td>
                  <td>${bought.orders} orders, ${bought.spent.amount}</td>
                </tr>`,
            )}
        </tbody>
      </table>`,
  );
}

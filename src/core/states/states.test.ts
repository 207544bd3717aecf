import { describe, expect, it } from 'vitest';
import {
  CONNECTING,
  PUBLISHING,
  SENDING,
  type ConnectionEvent,
  type ConnectionState,
  type PublishState,
  type SendingEvent,
  type SendingState,
} from './index.ts';

describe('what follows on what', () => {
  it('for sources and routes', () => {
    const states: PublishState[] = ['draft', 'live', 'paused'];
    const row = (event: 'published' | 'paused' | 'resumed') => states.map((state) => PUBLISHING.after(state, event));
    expect(row('published')).toEqual(['live', 'live', 'live']);
    expect(row('paused')).toEqual([null, 'paused', 'paused']);
    expect(row('resumed')).toEqual([null, null, 'live']);
  });

  it('for connections: what a person paused stays so until they let it go on', () => {
    const states: ConnectionState[] = ['active', 'paused', 'refused', 'ungranted'];
    const row = (event: ConnectionEvent) => states.map((state) => CONNECTING.after(state, event));
    expect(row('paused')).toEqual(['paused', 'paused', 'paused', null]);
    expect(row('resumed')).toEqual([null, 'active', null, null]);
    expect(row('found good')).toEqual([null, null, 'active', 'active']);
    expect(row('found refused')).toEqual(['refused', null, null, null]);
  });

  it('for sendings of what is there: what is over stays over', () => {
    const states: SendingState[] = ['running', 'paused', 'done', 'cancelled'];
    const row = (event: SendingEvent) => states.map((state) => SENDING.after(state, event));
    expect(row('paused')).toEqual(['paused', null, null, null]);
    expect(row('resumed')).toEqual([null, 'running', null, null]);
    expect(row('cancelled')).toEqual(['cancelled', 'cancelled', null, null]);
    expect(row('came to its end')).toEqual(['done', null, null, null]);
  });

  it('says from where an event leads on, and to where', () => {
    expect(CONNECTING.before('found good')).toEqual(['refused', 'ungranted']);
    expect(CONNECTING.to('found good')).toBe('active');
  });
});

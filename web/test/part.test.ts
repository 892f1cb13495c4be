import './browser-stand-in';
import { fetchParts, part } from '../src/state/part';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('a part that cannot be had is tried again until it can, and the miss is told once', async () => {
  let tries = 0;
  const own = part(() => (++tries < 3 ? Promise.reject(new Error('away')) : Promise.resolve('here')));
  const missed = jest.fn();
  const found = own.fetch(missed);
  // Whoever asks meanwhile waits for the same.
  expect(own.fetch()).toBe(found);
  expect(own.here).toBeNull();
  await jest.advanceTimersByTimeAsync(10_000);
  expect(await found).toBe('here');
  expect(own.here).toBe('here');
  expect([tries, missed.mock.calls.length]).toEqual([3, 1]);
  await own.fetch(missed);
  expect(tries).toBe(3);
});

test('all parts are fetched ahead, each once; one that fails then is fetched when it is needed', async () => {
  const [sound, wrong] = [
    jest.fn(() => Promise.resolve(1)),
    jest.fn(() => Promise.reject(new Error('away'))),
  ];
  const own = part(sound);
  const other = part<number>(wrong);
  const all = fetchParts();
  await jest.advanceTimersByTimeAsync(10_000);
  await all;
  expect(own.here).toBe(1);
  expect(other.here).toBeNull();
  await fetchParts();
  expect([sound.mock.calls.length, wrong.mock.calls.length]).toEqual([1, 1]);
  wrong.mockImplementation(() => Promise.resolve(2) as unknown as Promise<never>);
  expect(await other.fetch()).toBe(2);
});

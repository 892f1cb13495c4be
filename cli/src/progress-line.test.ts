import { progressLine } from './progress-line';

test('on a terminal the work is told with its share, not too often, and goes when it is over', () => {
  const written: string[] = [];
  const terminal = { isTTY: true, write: (text: string) => written.push(text) > 0 };
  const clock = jest.spyOn(performance, 'now');
  const line = progressLine('Reading “a.dxf”', terminal as unknown as NodeJS.WriteStream);
  for (const [ms, share] of [
    [1000, 0.1],
    [1050, 0.2],
    [1100, 0.999],
  ]) {
    clock.mockReturnValue(ms!);
    line.tell(share!);
  }
  line.end();
  clock.mockRestore();
  expect(written.map((text) => text.replace('\r\u001b[2K', '|'))).toEqual([
    '|Reading “a.dxf” …',
    '|Reading “a.dxf” … 10 %',
    '|Reading “a.dxf” … 99 %',
    '|',
  ]);
});

test('where there is no terminal nothing is written', () => {
  const write = jest.fn();
  const line = progressLine('Reading', { isTTY: false, write } as unknown as NodeJS.WriteStream);
  line.tell(0.5);
  line.end();
  expect(write).not.toHaveBeenCalled();
});

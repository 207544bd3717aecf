// Loaded into programs under test before anything else: their clock can be put forward and back from outside, and what memory they
// hold can be asked for. Both by SIGUSR2.
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import process from 'node:process';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

const folder = process.env.TEST_CLOCK ?? '';
const RealDate = Date;
const realNow = RealDate.now;
let offset = 0;
const read = () => (offset = Number(readFileSync(path.join(folder, 'offset'), 'utf8')));

if (folder !== '') {
  setFlagsFromString('--expose-gc');
  const collect = runInNewContext('gc');
  RealDate.now = () => realNow() + offset;
  globalThis.Date = new Proxy(RealDate, {
    construct: (target, args, as) => Reflect.construct(target, args.length > 0 ? args : [realNow() + offset], as),
  });
  read();
  process.on('SIGUSR2', () => {
    read();
    collect();
    writeFileSync(path.join(folder, `heap-${process.pid}`), String(process.memoryUsage().heapUsed));
  });
}

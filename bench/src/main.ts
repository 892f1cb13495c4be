import { modelBench } from './model-bench';
import { shadeBench } from './shade-bench';
import { studyBench } from './study-bench';
import { traceBench } from './trace-bench';
import { yearBench } from './year-bench';

const json = process.argv.includes('--json');
const [wanted, sensors = '4000'] = process.argv.slice(2).filter((arg) => arg !== '--json');
if (wanted === 'model') modelBench();
else if (wanted === 'study') studyBench();
else if (wanted === 'year') {
  const outcomes = yearBench(json ? () => {} : console.log);
  if (json) console.log(JSON.stringify(outcomes, null, 1));
} else if (wanted === 'shade') shadeBench();
else if (wanted === undefined || wanted === 'trace') {
  const outcomes = traceBench(Number(sensors), json ? () => {} : console.log);
  if (json) console.log(JSON.stringify(outcomes, null, 1));
} else {
  console.error(`There is no benchmark “${wanted}”; use trace, model, shade, study or year.`);
  process.exitCode = 1;
}

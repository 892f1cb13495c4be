import { modelBench } from './model-bench';
import { shadingBench, sweepPart } from './shading-bench';
import { shadeBench } from './shade-bench';
import { envelopeBench } from './envelope-bench';
import { liveBench } from './live-bench';
import { traceBench } from './trace-bench';
import { weighBench } from './weigh-bench';
import { studyBench } from './study-bench';

const json = process.argv.includes('--json');
const [wanted, sensors = '4000'] = process.argv.slice(2).filter((arg) => arg !== '--json');
if (wanted === 'model') modelBench();
else if (wanted === 'live') liveBench();
else if (wanted === 'envelope') envelopeBench();
else if (wanted === 'weigh') weighBench();
else if (wanted === 'study') {
  const outcomes = studyBench(json ? () => {} : console.log);
  if (json) console.log(JSON.stringify(outcomes, null, 1));
} else if (wanted === 'shade') shadeBench();
else if (wanted === 'shading') await shadingBench();
else if (wanted === 'shading-part') sweepPart(Number(process.argv[3]), Number(process.argv[4]));
else if (wanted === undefined || wanted === 'trace') {
  const outcomes = traceBench(Number(sensors), json ? () => {} : console.log);
  if (json) console.log(JSON.stringify(outcomes, null, 1));
} else {
  console.error(
    `There is no benchmark “${wanted}”; use trace, model, shade, shading, envelope, study, weigh or live.`,
  );
  process.exitCode = 1;
}

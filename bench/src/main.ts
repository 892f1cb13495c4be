import { modelBench } from './model-bench';
import { shadeBench } from './shade-bench';
import { studyBench } from './study-bench';
import { traceBench } from './trace-bench';

const wanted = process.argv[2];
const sensors = Number(process.argv[3] ?? 4000);
if (wanted === 'model') modelBench();
else if (wanted === 'study') studyBench();
else if (wanted === 'shade') shadeBench();
else if (wanted === undefined || wanted === 'trace') traceBench(sensors);
else {
  console.error(`There is no benchmark “${wanted}”; use trace, model, shade or study.`);
  process.exitCode = 1;
}

import { modelBench } from './model-bench';
import { traceBench } from './trace-bench';

const wanted = process.argv[2];
const sensors = Number(process.argv[3] ?? 4000);
if (wanted === 'model') modelBench();
else if (wanted === undefined || wanted === 'trace') traceBench(sensors);
else {
  console.error(`There is no benchmark “${wanted}”; use trace or model.`);
  process.exitCode = 1;
}

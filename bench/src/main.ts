import { traceBench } from './trace-bench';

const sensors = Number(process.argv[2] ?? 4000);
traceBench(sensors);

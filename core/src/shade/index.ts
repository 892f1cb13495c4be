export { castShade, type FlatReceiver } from './cast';
export { builtOver, type Receiver, receiversOf, type ShadeOn } from './receivers';
export { shadeCounts, type ShadeRow, type ShadowStudy, shadowStudy } from './shadow-study';

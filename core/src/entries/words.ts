/** The sentences of reasons, and the words of measures. At `@isochron/core/words`. */

export { describeReason, drillName } from '../words/describe-reason';
export { MEASURE_WORDS } from '../words/measure-words';
export { forWhom, judgedHow } from '../words/method-facts';
export { PAIN_ADVICE } from '../words/pain-advice';
export { bpmWords, type Reader } from '../words/reader';
export { spokenDecision, verdictWord } from '../words/spoken';

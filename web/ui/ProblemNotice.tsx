import type { ApiFailure } from '../app/api.ts';
import { Notice } from './Notice.tsx';

interface ProblemNoticeProps {
  readonly failure: Extract<ApiFailure, { type: 'problem' }>;
}

/** What the server refused, why, and what would mend it. */
export function ProblemNotice({ failure: { problem } }: ProblemNoticeProps) {
  const { title, detail, mend } = problem;
  return <Notice alert kind="stop" title={title} why={detail} mend={mend} />;
}

import { X } from 'lucide-react';
import { useNotices } from '../state/notice-store';

export function Notices() {
  const { notices, dismiss } = useNotices();
  return (
    <div className="notices" role="status" aria-live="polite">
      {notices.map((notice) => (
        <div key={notice.id} className={`notice${notice.wrong ? ' wrong' : ''}`}>
          <span>{notice.text}</span>
          <button className="btn-bare" aria-label="Dismiss" onClick={() => dismiss(notice.id)}>
            <X size={14} />
          </button>
        </div>
      ))}
    </div>
  );
}

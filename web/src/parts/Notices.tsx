import { TriangleAlert } from "lucide-react";
import type { Built } from "@/api/client";

/** What will go wrong, said in words and with a sign, not by colour alone. */
export function Notices({ notices }: { notices: Built["notices"] }) {
  if (notices.length === 0) return null;
  return (
    <ul aria-label="Notices" className="mb-4 flex flex-col gap-2">
      {notices.map((notice) => (
        <li key={notice.text} className="flex gap-2 rounded bg-failtint px-3 py-2 text-[#6e1f0e]">
          <TriangleAlert aria-hidden size={17} className="mt-0.5 shrink-0" />
          {notice.text}
        </li>
      ))}
    </ul>
  );
}

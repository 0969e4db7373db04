import { type MouseEvent, useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { GUIDE, pageAsHtml } from "./pages";

/** The guide: a page a screen and three walks, found by any word. */
export function GuideScreen() {
  const { page: key } = useParams();
  const navigate = useNavigate();
  const [words, setWords] = useState("");
  const page = GUIDE.find((one) => one.key === key) ?? GUIDE[0];
  const html = useMemo(() => (page ? pageAsHtml(page) : ""), [page]);
  useEffect(() => {
    document.title = `${page?.title ?? "Guide"} · Guide · Weary Cedar`;
    window.scrollTo(0, 0);
  }, [page]);
  const sought = words.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const shown = GUIDE.filter((one) => sought.every((word) => one.text.toLowerCase().includes(word)));
  /** Links of the text go on in the app. */
  const follow = (event: MouseEvent) => {
    const to = (event.target as HTMLElement).closest("a")?.getAttribute("href");
    if (!to?.startsWith("/guide/") || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    navigate(to);
  };
  return (
    <main className="mx-auto max-w-[1200px] px-5 py-6">
      <p className="flex flex-wrap gap-x-4 font-semibold text-cedar">
        <Link to="/plans">Weary Cedar</Link>
        <button type="button" className="act font-normal" onClick={() => navigate(-1)}>
          Back
        </button>
      </p>
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-8 md:grid-cols-[230px_minmax(0,1fr)]">
        <nav aria-label="Guide" className="max-md:order-2">
          <label className="block">
            <span className="text-faint">find in the guide</span>
            <input
              type="search"
              className="field block w-full"
              value={words}
              onChange={(event) => setWords(event.target.value)}
            />
          </label>
          <ul className="mt-2">
            {shown.map((one) => (
              <li key={one.key}>
                <Link
                  to={`/guide/${one.key}`}
                  aria-current={one === page ? "page" : undefined}
                  className="flex min-h-[28px] items-center hover:text-cedar aria-[current]:font-semibold"
                >
                  {one.title}
                </Link>
              </li>
            ))}
          </ul>
          {shown.length === 0 && <p className="text-faint">No page says that.</p>}
        </nav>
        {/* biome-ignore lint/a11y/useKeyWithClickEvents: links inside carry the keys */}
        <article
          className="guide min-w-0 max-w-[820px]"
          onClick={follow}
          // biome-ignore lint/security/noDangerouslySetInnerHtml: pages of the guide ship with the app
          dangerouslySetInnerHTML={{ __html: html }}
        />
      </div>
    </main>
  );
}

import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js';
import { useEffect, useState } from 'react';
import { Chart as Drawing } from 'react-chartjs-2';
import type { DayInsight } from '../../../contract/insight.ts';
import { figure } from '../../parts/figures.ts';

Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
);
Chart.defaults.font.family = "'Source Sans 3 Variable', sans-serif";

/** A colour of the theme, as the browser has it now. */
const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** How many came, day by day; the table behind it says the same. */
export function Trend({ days }: { days: DayInsight[] }) {
  const [theme, setTheme] = useState(document.documentElement.dataset.theme);
  useEffect(() => {
    const observer = new MutationObserver(() => setTheme(document.documentElement.dataset.theme));
    observer.observe(document.documentElement, { attributeFilter: ['data-theme'] });
    return () => observer.disconnect();
  }, []);
  const short = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });
  const labels = days.map(({ day }) => short.format(new Date(`${day}T00:00Z`)));
  const ink = colour('--color-base-content');
  const line = colour('--color-base-300');
  const total = days.reduce((sum, { completed }) => sum + completed, 0);
  return (
    <section aria-labelledby="trend">
      <h2 id="trend" className="text-lg font-semibold mb-2">
        Day by day
      </h2>
      <p className="flex gap-5 text-sm mb-1">
        <span>
          <span className="inline-block w-3 h-3 bg-primary mr-1.5" aria-hidden="true" />
          Completed
        </span>
        <span>
          <span className="inline-block w-4 border-t-2 border-secondary mr-1.5 align-middle" aria-hidden="true" />
          Shown
        </span>
      </p>
      <div className="h-56">
        <Drawing
          key={theme}
          type="bar"
          aria-label={`${figure(total)} completed in ${days.length} days`}
          role="img"
          data={{
            labels,
            datasets: [
              {
                type: 'line',
                label: 'Shown',
                data: days.map(({ shown }) => shown),
                borderColor: colour('--color-secondary'),
                pointRadius: 0,
                borderWidth: 2,
                yAxisID: 'seen',
              },
              {
                type: 'bar',
                label: 'Completed',
                data: days.map(({ completed }) => completed),
                backgroundColor: colour('--color-primary'),
                yAxisID: 'came',
              },
            ],
          }}
          options={{
            maintainAspectRatio: false,
            animation: false,
            interaction: { mode: 'index', intersect: false },
            scales: {
              x: { ticks: { color: ink, maxRotation: 0, autoSkipPadding: 12 }, grid: { display: false } },
              came: {
                position: 'left',
                beginAtZero: true,
                title: { display: true, text: 'Completed', color: ink },
                ticks: { color: ink, precision: 0 },
                grid: { color: line },
              },
              seen: {
                position: 'right',
                beginAtZero: true,
                title: { display: true, text: 'Shown', color: ink },
                ticks: { color: ink, precision: 0 },
                grid: { display: false },
              },
            },
          }}
        />
      </div>
      <details className="mt-1">
        <summary className="cursor-pointer text-quiet">As a table</summary>
        <table className="table table-xs w-auto">
          <thead className="text-quiet">
            <tr>
              <th scope="col">Day</th>
              <th scope="col" className="text-right">
                Shown
              </th>
              <th scope="col" className="text-right">
                Completed
              </th>
            </tr>
          </thead>
          <tbody>
            {days.map(({ day, shown, completed }, at) => (
              <tr key={day}>
                <th scope="row" className="font-normal">
                  {labels[at]}
                </th>
                <td className="text-right tabular-nums">{figure(shown)}</td>
                <td className="text-right tabular-nums">{figure(completed)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </section>
  );
}

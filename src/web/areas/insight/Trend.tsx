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
import { TREND_UNITS, type TrendUnit, type TrendPoint } from '../../../contract/insight.ts';
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

interface TrendProps {
  trend: TrendPoint[];
  per: TrendUnit;
  onPer: (per: TrendUnit) => void;
}

const PER_WORDS: Record<TrendUnit, string> = { hour: 'Hour', day: 'Day', week: 'Week', month: 'Month' };
const FORMATS: Record<TrendUnit, Intl.DateTimeFormatOptions> = {
  hour: { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' },
  day: { day: 'numeric', month: 'short' },
  week: { day: 'numeric', month: 'short' },
  month: { month: 'short', year: 'numeric' },
};

/** How many came, step by step; the table behind it says the same. */
export function Trend({ trend, per, onPer }: TrendProps) {
  const [theme, setTheme] = useState(document.documentElement.dataset.theme);
  useEffect(() => {
    const observer = new MutationObserver(() => setTheme(document.documentElement.dataset.theme));
    observer.observe(document.documentElement, { attributeFilter: ['data-theme'] });
    return () => observer.disconnect();
  }, []);
  const short = new Intl.DateTimeFormat('en-GB', { ...FORMATS[per], timeZone: 'UTC' });
  const labels = trend.map(({ from }) => short.format(new Date(`${from}Z`)));
  const ink = colour('--color-base-content');
  const line = colour('--color-base-300');
  const total = trend.reduce((sum, { completed }) => sum + completed, 0);
  return (
    <section aria-labelledby="trend">
      <div className="flex flex-wrap items-center gap-2 mb-2">
        <h2 id="trend" className="text-lg font-semibold">
          When
        </h2>
        <select
          className="select select-sm w-auto"
          aria-label="How long each bar is"
          value={per}
          onChange={({ target }) => onPer(target.value as TrendUnit)}
        >
          {TREND_UNITS.map((one) => (
            <option key={one} value={one}>
              by the {one}
            </option>
          ))}
        </select>
      </div>
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
          aria-label={`${figure(total)} completed, by the ${per}`}
          role="img"
          data={{
            labels,
            datasets: [
              {
                type: 'line',
                label: 'Shown',
                data: trend.map(({ shown }) => shown),
                borderColor: colour('--color-secondary'),
                pointRadius: 0,
                borderWidth: 2,
                yAxisID: 'seen',
              },
              {
                type: 'bar',
                label: 'Completed',
                data: trend.map(({ completed }) => completed),
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
        <summary className="cursor-pointer text-muted">As a table</summary>
        <table className="table table-xs w-auto">
          <thead className="text-muted">
            <tr>
              <th scope="col">{PER_WORDS[per]}</th>
              <th scope="col" className="text-right">
                Shown
              </th>
              <th scope="col" className="text-right">
                Completed
              </th>
            </tr>
          </thead>
          <tbody>
            {trend.map(({ from, shown, completed }, at) => (
              <tr key={from}>
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

'use client';
import dynamic from 'next/dynamic';

/** As high as the chart, so that nothing moves when it comes. */
const Place = () => <figure className="chart" aria-hidden="true" />;

/** The chart, drawn by the browser alone: its figures stand in the tables, and the server's thread is others' as well. */
export const LoadedDayChart = dynamic(() => import('./day-chart').then(({ DayChart }) => DayChart), {
  ssr: false,
  loading: Place,
});

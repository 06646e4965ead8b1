'use client';
import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { RESPONSE } from '@/core/words';
import type { Figures } from '@/core/response';

const short = (day: string) =>
  new Date(`${day}T12:00:00Z`).toLocaleDateString('en-GB', { timeZone: 'UTC', day: 'numeric', month: 'short' });

/** Visits as filled bars, saves as outlined ones, told apart by shape and not by colour alone. The table beside it holds the figures. */
export function DayChart({ days }: { days: ({ day: string } & Figures)[] }) {
  return (
    <figure className="chart">
      <div aria-hidden="true">
        <ResponsiveContainer width="100%" height={230} initialDimension={{ width: 1000, height: 230 }}>
          <BarChart
            data={days}
            margin={{ top: 8, right: 0, bottom: 0, left: 0 }}
            barGap={1}
            barCategoryGap="18%"
            accessibilityLayer={false}
          >
            <CartesianGrid vertical={false} stroke="var(--hair)" />
            <XAxis
              dataKey="day"
              tickFormatter={short}
              tickLine={false}
              axisLine={{ stroke: 'var(--stone)' }}
              tick={{ fill: 'var(--stone)', fontSize: 13 }}
              minTickGap={28}
            />
            <YAxis
              allowDecimals={false}
              tickLine={false}
              axisLine={false}
              width={36}
              tick={{ fill: 'var(--stone)', fontSize: 13 }}
            />
            <Tooltip
              isAnimationActive={false}
              cursor={{ fill: 'var(--hair)' }}
              labelFormatter={(day) => short(String(day))}
              contentStyle={{
                background: 'var(--linen)',
                border: '1px solid var(--hair)',
                borderRadius: 3,
                color: 'var(--peat)',
              }}
              itemStyle={{ color: 'var(--peat)' }}
            />
            <Bar dataKey="visits" name={RESPONSE.visits} fill="var(--ling-fill)" isAnimationActive={false} />
            <Bar
              dataKey="saves"
              name={RESPONSE.saves}
              fill="var(--linen)"
              stroke="var(--ling-fill)"
              strokeWidth={1.5}
              isAnimationActive={false}
            />
          </BarChart>
        </ResponsiveContainer>
      </div>
      <figcaption>
        <i className="filled" aria-hidden="true" /> {RESPONSE.visits} <i className="outlined" aria-hidden="true" />{' '}
        {RESPONSE.saves}
      </figcaption>
    </figure>
  );
}

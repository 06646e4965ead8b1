-- What wrk counted, as one line of JSON: every latency in microseconds with how often it came, so that slices of a run
-- can be put together exactly.
function done(summary, latency)
  local counts = {}
  for i = 1, #latency do
    local value, count = latency(i)
    counts[i] = string.format('[%d,%d]', value, count)
  end
  local errors = summary.errors
  io.write(string.format('\nREPORT {"answers":%d,"microseconds":%d,"failures":%d,"latencies":[%s]}\n',
    summary.requests, summary.duration,
    errors.connect + errors.read + errors.write + errors.status + errors.timeout, table.concat(counts, ',')))
end

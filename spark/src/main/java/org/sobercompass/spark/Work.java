package org.sobercompass.spark;

import java.util.Collection;
import java.util.Map;
import java.util.TreeMap;
import org.apache.spark.scheduler.SparkListener;
import org.apache.spark.scheduler.SparkListenerTaskEnd;

/** How much processor time the workers needed. Thread-safe. */
final class Work extends SparkListener {
  private final Map<String, Long> nanos = new TreeMap<>();

  @Override
  public synchronized void onTaskEnd(SparkListenerTaskEnd end) {
    if (end.taskMetrics() != null) {
      nanos.merge(end.taskInfo().executorId(), end.taskMetrics().executorCpuTime(), Long::sum);
    }
  }

  /** Seconds of processor time of each worker that had any. */
  synchronized Collection<Double> seconds() {
    return nanos.values().stream().map(n -> n / 1e9).toList();
  }
}

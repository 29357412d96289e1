package org.sobercompass.bench;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.function.IntUnaryOperator;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Batch;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.Limits;

/** Questions about one account or one permission, and many of them in a batch. */
final class SingleQuestions {
  private SingleQuestions() {}

  /** Times them on a model. */
  static void time(AccessModel model, int tries) {
    Random random = new Random(6);
    Asker asker = model.asker();
    int[] some = random.ints(2000, 0, model.facts().accounts()).toArray();
    each("one account's holdings", some, a -> asker.holdings(a).size());
    RouteFinder finder = new RouteFinder(asker, Limits.USUAL);
    each(
        "one decision with its routes",
        some,
        a -> {
          SystemView view = model.systems().get(a % model.systems().size());
          return finder
              .find(view, a, a % view.rights().size(), a % view.resources().size())
              .open()
              .size();
        });
    for (SystemView view : model.systems().subList(0, Math.min(3, model.systems().size()))) {
      each(
          "one permission's holders (" + view.system().combining() + ")",
          random.ints(40, 0, view.rights().size()).toArray(),
          r -> new Holders(asker).find(view, r, 0, false).size());
    }
    List<Batch.Item> items = new ArrayList<>();
    for (int i = 0; i < 300_000; i++) {
      SystemView view = model.systems().get(random.nextInt(model.systems().size()));
      items.add(
          new Batch.Item(
              random.nextInt(model.facts().accounts()),
              view,
              random.nextInt(view.rights().size()),
              random.nextInt(view.resources().size())));
    }
    Yardstick.timed(
        "300,000 questions in a batch",
        tries,
        () -> {
          List<Can> all = new Batch(model.asker()).answer(items);
          return all.size();
        });
  }

  private static void each(String what, int[] items, IntUnaryOperator work) {
    long[] times = new long[items.length];
    long sum = 0;
    for (int round = 0; round < 2; round++) {
      for (int i = 0; i < items.length; i++) {
        long begin = System.nanoTime();
        sum += work.applyAsInt(items[i]);
        times[i] = System.nanoTime() - begin;
      }
    }
    Arrays.sort(times);
    System.out.printf(
        Locale.ROOT,
        "%-58s median %8.3f ms  99%% %8.3f ms  (mean answer %d)%n",
        what,
        times[times.length / 2] / 1e6,
        times[times.length * 99 / 100] / 1e6,
        sum / items.length / 2);
  }
}

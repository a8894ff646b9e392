package mandala.core.excess;

import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import mandala.core.question.Impact;

/** Works through a list on all threads, some at a time, until a watch breaks it off. */
public final class InBatches {

  private InBatches() {}

  /**
   * Works through a list.
   *
   * @param size how many come at a time; the watch is called after each batch
   * @param watch told how far it is, and asked whether to go on
   * @param work called once for each batch; from any thread
   * @return whether it was not broken off
   */
  public static <T> boolean of(List<T> all, int size, Impact.Watch watch, Consumer<List<T>> work) {
    AtomicInteger done = new AtomicInteger();
    AtomicBoolean on = new AtomicBoolean(true);
    IntStream.range(0, (all.size() + size - 1) / size)
        .parallel()
        .forEach(number -> {
          if (!on.get()) {
            return;
          }
          List<T> some = all.subList(number * size, Math.min(all.size(), (number + 1) * size));
          work.accept(some);
          int soFar = done.addAndGet(some.size());
          synchronized (watch) {
            if (on.get() && !watch.goOn(soFar, all.size())) {
              on.set(false);
            }
          }
        });
    return on.get();
  }
}

package mandala.server.platform;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class FairShareTest {

  private final FairShare share = new FairShare(2, Duration.ofMinutes(2));

  @Test
  void onePersonHasOneTurnAtATimeAndOthersDoNotWaitForTheRest() throws Exception {
    CountDownLatch go = new CountDownLatch(1);
    AtomicInteger running = new AtomicInteger();
    AtomicInteger most = new AtomicInteger();
    AtomicInteger begun = new AtomicInteger();
    try (ExecutorService pool = Executors.newVirtualThreadPerTaskExecutor()) {
      List<Future<?>> calls = new ArrayList<>();
      for (int i = 0; i < FairShare.WAITING; i++) {
        calls.add(
            pool.submit(() -> {
              begun.incrementAndGet();
              try (var _ = share.take("greedy")) {
                most.accumulateAndGet(running.incrementAndGet(), Math::max);
                go.await();
                running.decrementAndGet();
              }
              return null;
            }));
      }
      await().until(() -> begun.get() == FairShare.WAITING && running.get() == 1);
      try (var _ = share.take("patient")) {
        assertThat(running.get()).as("beside the one of the greedy").isEqualTo(1);
      }
      go.countDown();
      for (Future<?> each : calls) {
        each.get();
      }
    }
    assertThat(most.get()).isEqualTo(1);
  }

  @Test
  void whoHasTooManyWaitingIsRefusedAtOnce() throws Exception {
    CountDownLatch go = new CountDownLatch(1);
    AtomicInteger refused = new AtomicInteger();
    try (ExecutorService pool = Executors.newVirtualThreadPerTaskExecutor()) {
      for (int i = 0; i < FairShare.WAITING + 5; i++) {
        var _ =
            pool.submit(() -> {
              try (var _ = share.take("greedy")) {
                go.await();
              } catch (Problem busy) {
                refused.incrementAndGet();
              }
              return null;
            });
      }
      await().until(() -> refused.get() == 4);
      go.countDown();
    }
    assertThat(refused.get()).isEqualTo(4);
    try (var turn = share.take("greedy")) {
      assertThat(turn).as("all turns were given back").isNotNull();
    }
  }

  @Test
  void whoseTurnDoesNotComeIsToldHowLongItWaited() {
    FairShare hasty = new FairShare(1, Duration.ofMillis(20));
    try (var _ = hasty.take("first")) {
      assertThatThrownBy(() -> hasty.take("second"))
          .isInstanceOf(Problem.class)
          .hasMessageContaining("Try again");
      assertThatThrownBy(() -> hasty.take("first")).isInstanceOf(Problem.class);
    }
    try (var turn = hasty.take("second")) {
      assertThat(turn).isNotNull();
    }
  }
}

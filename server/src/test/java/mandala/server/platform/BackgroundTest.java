package mandala.server.platform;

import static mandala.server.Patience.await;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class BackgroundTest {

  /** Fails a few times, then works. */
  private static final class Shaky extends Background {
    private final AtomicInteger runs = new AtomicInteger();
    private final AtomicInteger worked = new AtomicInteger();

    Shaky() {
      super("shaky", 1);
    }

    @Override
    protected void run() {
      if (runs.incrementAndGet() <= 2) {
        throw new IllegalStateException("not yet");
      }
      worked.incrementAndGet();
    }
  }

  @Test
  void goesOnAfterFailures() {
    Shaky task = new Shaky();
    task.start();
    try {
      await().until(() -> task.worked.get() >= 2);
      assertThat(task.runs.get()).isGreaterThanOrEqualTo(4);
      assertThat(task.isRunning()).isTrue();
    } finally {
      task.stop();
    }
    assertThat(task.isRunning()).isFalse();
  }
}

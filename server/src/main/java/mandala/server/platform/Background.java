package mandala.server.platform;

import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;

/**
 * A task that repeats in a thread of its own while the server runs. After a failure the pause
 * doubles, from 200 ms to 30 s; the first failure in a row is logged as a warning, and so is the
 * recovery. Stopping interrupts it.
 */
public abstract class Background implements SmartLifecycle {

  private static final Logger LOG = LoggerFactory.getLogger(Background.class);
  private static final BackOff BACK_OFF =
      new BackOff(Duration.ofMillis(200), Duration.ofSeconds(30));

  private final String name;
  private final long pauseMillis;
  private volatile @Nullable Thread thread;

  /** In a row; known to the thread of the task alone. */
  private int failures;

  /**
   * A task.
   *
   * @param name of the thread
   * @param pauseMillis between two runs where nothing fails
   */
  protected Background(String name, long pauseMillis) {
    this.name = name;
    this.pauseMillis = pauseMillis;
  }

  /**
   * Runs the task once. It may take long if it looks at {@link #isMine} now and then.
   *
   * @throws Exception if it failed; it is tried again
   */
  protected abstract void run() throws Exception;

  /** {@return whether the running thread is still the one that runs the task} */
  protected final boolean isMine() {
    return Thread.currentThread().equals(thread);
  }

  /** Says that the task, which runs long, succeeds now: the next failure is the first. */
  protected final void succeeded() {
    if (failures > 0) {
      LOG.warn("{}: works again after {} failures", name, failures);
      failures = 0;
    }
  }

  private void repeat() {
    boolean on = true;
    while (on) {
      try {
        run();
        succeeded();
      } catch (Exception | Error e) {
        failures++;
        if (isMine() && failures == 1) {
          LOG.warn("{}: failed, and is tried again: {}", name, e.toString());
        } else {
          LOG.debug("{}: failed {} times in a row: {}", name, failures, e.toString());
        }
      }
      on = isMine() && pause(failures == 0 ? pauseMillis : BACK_OFF.after(failures).toMillis());
    }
  }

  private static boolean pause(long millis) {
    try {
      Thread.sleep(millis);
      return true;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return false;
    }
  }

  @Override
  public final synchronized void start() {
    if (thread == null) {
      Thread fresh = Thread.ofPlatform().daemon().name(name).unstarted(this::repeat);
      thread = fresh; // before it runs, for it looks whether it is the one
      fresh.start();
    }
  }

  @Override
  public final synchronized void stop() {
    Thread running = thread;
    thread = null;
    if (running != null) {
      running.interrupt();
    }
  }

  @Override
  public final boolean isRunning() {
    return thread != null;
  }
}

package mandala.server.platform;

import org.jspecify.annotations.Nullable;
import org.springframework.context.SmartLifecycle;

/**
 * Something that goes on in a thread of its own while the server runs. Stopping interrupts it; what
 * goes on looks at {@link #isMine} now and then.
 */
public abstract class Background implements SmartLifecycle {

  private final String name;
  private volatile @Nullable Thread thread;

  /**
   * @param name of the thread
   */
  protected Background(String name) {
    this.name = name;
  }

  /** Goes on until it is no longer {@link #isMine}, or the thread is interrupted. */
  protected abstract void go();

  /** {@return whether the running thread is still the one that goes on} */
  protected final boolean isMine() {
    return Thread.currentThread().equals(thread);
  }

  /** {@return whether the pause was not interrupted} */
  protected static boolean pause(long millis) {
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
      Thread fresh = Thread.ofPlatform().daemon().name(name).unstarted(this::go);
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

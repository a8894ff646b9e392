package mandala.server.platform;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.security.Principal;
import java.time.Duration;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentMap;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Component;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.HandlerInterceptor;

/**
 * Shares the machine fairly among the callers of {@link Costly} methods. A person has one costly
 * call running; their next ones wait, at most {@value #WAITING} of them and for a limited time.
 * Calls of all people together are limited too, first come, first served, so that whoever sends
 * many waits for themselves and not before others. A call that waits holds no database connection.
 */
@Component
class FairShare implements HandlerInterceptor {

  /** How many calls of one person may wait. */
  static final int WAITING = 16;

  private static final Duration PATIENCE = Duration.ofSeconds(30);
  private static final String HELD = FairShare.class.getName();

  private final Semaphore running;
  private final Duration patience;
  private final ConcurrentMap<String, Line> lines = new ConcurrentHashMap<>();

  @Autowired
  FairShare() {
    this(Math.max(2, Runtime.getRuntime().availableProcessors()), PATIENCE);
  }

  /**
   * Shares among people.
   *
   * @param atOnce how many costly calls run at once
   * @param patience how long a call waits for its turn
   */
  FairShare(int atOnce, Duration patience) {
    this.running = new Semaphore(atOnce, true);
    this.patience = patience;
  }

  /** The calls of one person. */
  private static final class Line {
    final Semaphore turn = new Semaphore(1, true);
    int present;
  }

  /** A turn that was taken, to be given back. */
  interface Turn extends AutoCloseable {
    @Override
    void close();
  }

  @Override
  public boolean preHandle(
      HttpServletRequest request, HttpServletResponse response, Object handler) {
    if (handler instanceof HandlerMethod method && method.hasMethodAnnotation(Costly.class)) {
      Principal who = request.getUserPrincipal();
      try {
        request.setAttribute(HELD, take(who == null ? "" : who.getName()));
      } catch (Problem busy) {
        response.setHeader(HttpHeaders.RETRY_AFTER, "5");
        throw busy;
      }
    }
    return true;
  }

  @Override
  public void afterCompletion(
      HttpServletRequest request,
      HttpServletResponse response,
      Object handler,
      @Nullable Exception e) {
    if (request.getAttribute(HELD) instanceof Turn turn) {
      request.removeAttribute(HELD);
      turn.close();
    }
  }

  /**
   * Waits for a person's turn.
   *
   * @throws Problem if too many of their calls wait already, or it does not come in time
   */
  Turn take(String person) {
    Line line = enter(person);
    long until = System.nanoTime() + patience.toNanos();
    boolean own = false;
    boolean all = false;
    try {
      own = acquire(line.turn, until);
      all = own && acquire(running, until);
    } finally {
      if (!all) {
        if (own) {
          line.turn.release();
        }
        leave(person);
      }
    }
    if (!all) {
      throw Problem.busy(
          "It waited " + patience.toSeconds() + " s for its turn. Try again in a moment.");
    }
    return () -> {
      running.release();
      line.turn.release();
      leave(person);
    };
  }

  private static boolean acquire(Semaphore of, long untilNanos) {
    try {
      return of.tryAcquire(untilNanos - System.nanoTime(), TimeUnit.NANOSECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return false;
    }
  }

  private Line enter(String person) {
    return lines.compute(
        person,
        (_, known) -> {
          Line line = known == null ? new Line() : known;
          if (line.present > WAITING) {
            throw Problem.busy(
                "You have "
                    + line.present
                    + " calls of this kind running or waiting, the most that one person may have."
                    + " Wait for them.");
          }
          line.present++;
          return line;
        });
  }

  private void leave(String person) {
    lines.computeIfPresent(person, (_, line) -> --line.present == 0 ? null : line);
  }
}

package mandala.server.draft;

import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Function;
import java.util.stream.Collectors;
import mandala.core.analysis.Consequences;
import mandala.core.compliance.Finding;
import mandala.core.compliance.Findings;
import mandala.core.engine.Engine;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Impact;
import mandala.server.model.LiveModel;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/**
 * Computes what drafts do, in the background: whoever asks waits a moment and then learns how far
 * it is. The same draft over the same model is computed once; findings of a model are kept for its
 * newest revision. What nobody asks for any longer is broken off; what failed is tried again.
 * Thread-safe.
 */
@Component
class Impacts {

  private static final Logger LOG = LoggerFactory.getLogger(Impacts.class);
  private static final int REMEMBERED = 32;

  private final Clock clock;
  private final long retryNanos;
  private final long forgottenNanos;
  private final ExecutorService workers = Executors.newFixedThreadPool(2);
  private final Map<String, Work> works = new LinkedHashMap<>(32, 0.75f, true);
  private final Map<String, Work> latest = new HashMap<>();
  private @Nullable Known known;

  private record Known(Engine engine, List<Finding> findings) {}

  @Autowired
  Impacts(Clock clock) {
    this(clock, Duration.ofSeconds(5), Duration.ofSeconds(30));
  }

  /**
   * Computes impacts.
   *
   * @param retry after how long what failed is tried again
   * @param forgotten after how long without being asked for work is broken off
   */
  Impacts(Clock clock, Duration retry, Duration forgotten) {
    this.clock = clock;
    this.retryNanos = retry.toNanos();
    this.forgottenNanos = forgotten.toNanos();
  }

  /** An impact that is being computed, or is done. */
  static final class Work {
    private final CompletableFuture<Consequences> result = new CompletableFuture<>();
    private volatile int done;
    private volatile int of;
    private volatile boolean cancelled;
    private volatile long askedNanos = System.nanoTime();
    private volatile long failedNanos;
    private volatile boolean failed;

    int done() {
      return done;
    }

    int of() {
      return of;
    }

    /** {@return whether it was ended, also because nobody asked for it any more} */
    boolean isCancelled() {
      return cancelled;
    }

    /** {@return whether to go on}; what nobody asked for in time is ended for good */
    private boolean goesOn(long forgottenNanos) {
      if (System.nanoTime() - askedNanos > forgottenNanos) {
        cancelled = true;
      }
      return !cancelled;
    }

    boolean hasFailed() {
      return failed;
    }

    /** {@return whether it is to be begun anew}: ended, or failed some time ago */
    private boolean isOver(long retryNanos) {
      return cancelled || (failed && System.nanoTime() - failedNanos >= retryNanos);
    }

    private void fail(Throwable e) {
      failedNanos = System.nanoTime();
      failed = true;
      result.completeExceptionally(e);
    }

    /** Ends it at the next step. */
    void cancel() {
      cancelled = true;
    }

    /**
     * {@return what came of it}, null where it is not done within some time, was cancelled or
     * failed
     */
    @Nullable Consequences await(long millis) {
      askedNanos = System.nanoTime();
      try {
        Consequences found = result.get(millis, TimeUnit.MILLISECONDS);
        return found.impact().complete() ? found : null;
      } catch (TimeoutException _) {
        return null;
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        return null;
      } catch (ExecutionException _) {
        return null; // was logged when it failed
      } finally {
        askedNanos = System.nanoTime();
      }
    }
  }

  /**
   * {@return the work on a draft without faults}, begun where there is none; what was begun for
   * what the draft was before is broken off
   *
   * @param draft its id
   */
  Work of(String draft, DraftReview review) {
    Engine after = review.after();
    if (after == null) {
      throw new IllegalArgumentException("A draft with faults has no impact");
    }
    String what = review.state().revision() + " " + review.content();
    synchronized (works) {
      Work work = works.get(what);
      if (work == null || work.isOver(retryNanos)) {
        Work last = latest.get(draft);
        if (last != null) {
          last.cancel();
        }
        work = new Work();
        latest.put(draft, work);
        works.put(what, work);
        begin(work, review, after);
        forgetOldest();
      }
      return work;
    }
  }

  /**
   * {@return the work on what a draft does to some people only}: for a viewer who may not know of
   * the others
   *
   * @param whole what it does to everybody
   */
  Work on(DraftReview review, Consequences whole, List<PrincipalKey> people) {
    Engine after = review.after();
    if (after == null) {
      throw new IllegalArgumentException("A draft with faults has no impact");
    }
    String what =
        review.state().revision()
            + " "
            + review.content()
            + " "
            + people.stream().map(Key::value).collect(Collectors.joining(" "));
    synchronized (works) {
      Work work = works.get(what);
      if (work == null || work.isOver(retryNanos)) {
        Work fresh = new Work();
        works.put(what, fresh);
        forgetOldest();
        run(
            fresh,
            watch ->
                whole.on(
                    people,
                    review
                        .state()
                        .engine()
                        .impactOn(after, review.draft().inOrder(), now(), true, people, watch)));
        return fresh;
      }
      return work;
    }
  }

  private void forgetOldest() {
    if (works.size() > REMEMBERED) {
      works.remove(works.keySet().iterator().next());
      latest.values().retainAll(works.values());
    }
  }

  private Instant now() {
    return clock.instant().truncatedTo(ChronoUnit.SECONDS);
  }

  private void begin(Work work, DraftReview review, Engine after) {
    run(
        work,
        watch ->
            Consequences.of(
                review.state().engine(),
                after,
                review.draft(),
                findings(review.state()),
                now(),
                watch));
  }

  private void run(Work work, Function<Impact.Watch, Consequences> computation) {
    workers.execute(() -> {
      if (!work.goesOn(forgottenNanos)) {
        return;
      }
      try {
        work.result.complete(
            computation.apply((done, of) -> {
              work.done = done;
              work.of = of;
              return work.goesOn(forgottenNanos);
            }));
      } catch (RuntimeException | Error e) {
        LOG.error("An impact can't be computed; it is tried again when asked for", e);
        work.fail(e);
      }
    });
  }

  /** {@return every rule that does not hold in a model now}; of the one asked last kept */
  @SuppressWarnings("ReferenceEquality") // an engine is one state of the model
  List<Finding> findings(LiveModel.State state) {
    synchronized (workers) {
      Known last = known;
      if (last != null && last.engine() == state.engine()) {
        return last.findings();
      }
      List<Finding> found = Findings.of(state.engine(), now());
      known = new Known(state.engine(), found);
      return found;
    }
  }

  @PreDestroy
  void stop() {
    workers.shutdownNow();
  }
}

package mandala.server.draft;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jakarta.annotation.PreDestroy;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Supplier;
import mandala.core.authority.SecondApproval;
import mandala.core.question.Impact;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Why drafts need a second person's approval. Finding out looks at everybody the draft concerns,
 * now and later, so it is done once for each content, author and revision, and kept until a window
 * begins or ends. Lists and pages have it done in the background, where it is broken off when
 * nobody asks for it any more. Thread-safe.
 */
@Component
class SecondApprovals {

  private static final Logger LOG = LoggerFactory.getLogger(SecondApprovals.class);

  /** After so long without being asked for, work is broken off. */
  private static final long FORGOTTEN_NANOS = TimeUnit.SECONDS.toNanos(15);

  private final ExecutorService workers = Executors.newFixedThreadPool(2);
  private final Cache<String, Known> known = Caffeine.newBuilder().maximumSize(1_000).build();
  private final Cache<String, Work> works = Caffeine.newBuilder().maximumSize(1_000).build();

  /**
   * Reasons that were found.
   *
   * @param since from when on they hold, {@code until} before when
   */
  private record Known(List<SecondApproval.Reason> reasons, Instant since, Instant until) {
    boolean holdsAt(Instant at) {
      return !at.isBefore(since) && at.isBefore(until);
    }
  }

  /** Reasons that are being found in the background. */
  private static final class Work {
    private final FutureTask<List<SecondApproval.Reason>> task;
    private volatile long askedNanos = System.nanoTime();

    Work(Supplier<DraftReview> judging, SecondApprovals approvals) {
      task =
          new FutureTask<>(() -> {
            if (!isAskedFor()) {
              throw new CancellationException();
            }
            return approvals.find(judging.get(), (_, _) -> isAskedFor());
          });
    }

    boolean isAskedFor() {
      return System.nanoTime() - askedNanos < FORGOTTEN_NANOS;
    }
  }

  /** {@return the reasons for a draft, found in the caller's thread where they are not known} */
  List<SecondApproval.Reason> of(DraftReview review) {
    return find(review, Impact.Watch.TO_THE_END);
  }

  private List<SecondApproval.Reason> find(DraftReview review, Impact.Watch watch) {
    Known found = known.getIfPresent(review.name());
    if (found == null || !found.holdsAt(review.author().at())) {
      found = new Known(review.findReasons(watch), review.author().at(), review.sameUntil());
      known.put(review.name(), found);
    }
    return found.reasons();
  }

  /**
   * {@return the reasons for a draft}, null where they are not found in some time; then ask again
   *
   * @param name of the judgement: see {@link DraftReview#name}
   * @param at the instant for which it is judged
   * @param judging makes the judgement, in the background
   */
  @Nullable List<SecondApproval.Reason> within(
      String name, Instant at, Supplier<DraftReview> judging, long millis) {
    Known found = known.getIfPresent(name);
    if (found != null && found.holdsAt(at)) {
      return found.reasons();
    }
    Work work =
        works.get(
            name,
            _ -> {
              Work fresh = new Work(judging, this);
              workers.execute(fresh.task);
              return fresh;
            });
    work.askedNanos = System.nanoTime();
    return await(name, work, millis);
  }

  private @Nullable List<SecondApproval.Reason> await(String name, Work work, long millis) {
    try {
      List<SecondApproval.Reason> reasons = work.task.get(millis, TimeUnit.MILLISECONDS);
      works.asMap().remove(name, work);
      return reasons;
    } catch (TimeoutException _) {
      return null;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return null;
    } catch (ExecutionException e) {
      works.asMap().remove(name, work); // broken off or failed: begun anew when asked again
      if (!(e.getCause() instanceof CancellationException)) {
        LOG.error("Whether a draft needs approval can't be found out", e.getCause());
      }
      return null;
    }
  }

  /** {@return how many drafts are being judged in the background} */
  int running() {
    works.asMap().values().removeIf(it -> it.task.isDone());
    return works.asMap().size();
  }

  @PreDestroy
  void stop() {
    workers.shutdownNow();
  }
}

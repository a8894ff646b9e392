package mandala.server.job;

import java.io.OutputStream;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;

/** A job that runs: what is to be done, and where its result goes. */
public interface JobRun {

  /** {@return what is to be done} */
  JobOrder order();

  /**
   * {@return the model with the rights of the order's session now}
   *
   * @param draft a draft to lay over the model, or null
   * @param revision the revision to look at, or null for the newest
   * @throws mandala.server.platform.Problem if they are no longer active
   */
  RequestContext context(@Nullable String draft, @Nullable Long revision);

  /**
   * Says how far it is.
   *
   * @param of how much there is in all, or -1 while that is unknown
   * @throws Jobs.Cancelled if its owner cancelled it, or the server stops
   */
  void progress(long done, long of);

  /** {@return what it was given to work on}, empty where that was nothing */
  byte[] input();

  /**
   * Ends it with an answer, in the transaction in which it changes something: what is done is done
   * once, whenever the server stops. The answer names nothing of the model.
   *
   * @throws Jobs.Cancelled if its owner cancelled it: the transaction must be rolled back
   */
  void end(Object answer);

  /** Keeps an answer, which is written as JSON. */
  void answer(Object answer);

  /** {@return where a file is written}; it is kept when this is closed */
  OutputStream file(String name, String mediaType);
}

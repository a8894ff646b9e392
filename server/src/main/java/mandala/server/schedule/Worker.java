package mandala.server.schedule;

import com.github.kagkarlsson.scheduler.task.FailureHandler;
import com.github.kagkarlsson.scheduler.task.Task;
import java.util.List;
import mandala.server.platform.BackOff;

/** Does what waits in a queue. */
public interface Worker {

  /** {@return the queue that it takes from} */
  Queue queue();

  /** {@return its tasks}, each with a name of its own */
  List<Task<?>> tasks();

  /** {@return a handler that tries again what failed, later each time} */
  static <T> FailureHandler<T> retrying(BackOff backOff) {
    return (complete, operations) ->
        operations.reschedule(
            complete,
            complete
                .getTimeDone()
                .plus(backOff.after(complete.getExecution().consecutiveFailures + 1)));
  }
}

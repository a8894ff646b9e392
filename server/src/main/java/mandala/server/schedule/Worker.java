package mandala.server.schedule;

import com.github.kagkarlsson.scheduler.task.Task;
import java.util.List;

/** Does what waits in a queue. */
public interface Worker {

  /** {@return the queue that it takes from} */
  Queue queue();

  /** {@return its tasks}, each with a name of its own */
  List<Task<?>> tasks();
}

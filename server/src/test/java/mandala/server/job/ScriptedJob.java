package mandala.server.job;

import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import mandala.server.platform.Problem;
import org.springframework.boot.test.context.TestConfiguration;
import org.springframework.context.annotation.Bean;

/** Work that does what a test tells it to: its details are what to do. */
@TestConfiguration
public class ScriptedJob {

  /** How often work was begun that waits or fails; of all instances in this process. */
  static final AtomicInteger BEGUN = new AtomicInteger();

  /** Lets the work go on that waits for it. */
  static volatile boolean released;

  @Bean
  JobKind scripted() {
    return new JobKind() {
      @Override
      public String name() {
        return "scripted";
      }

      @Override
      public void run(JobRun run) throws Exception {
        switch (run.order().details().stringValue()) {
          case "answer" -> run.answer(Map.of("said", List.of("yes")));
          case "file" -> {
            try (OutputStream file = run.file("large.txt", "text/plain")) {
              for (int i = 0; i < 300_000; i++) {
                file.write("a line\n".getBytes(StandardCharsets.UTF_8));
              }
            }
          }
          case "wait" -> {
            BEGUN.incrementAndGet();
            while (true) {
              run.progress(1, 10);
            }
          }
          case "wait once" -> {
            boolean first = BEGUN.incrementAndGet() == 1;
            while (first) {
              run.progress(1, 10);
            }
            run.answer(Map.of("said", "again"));
          }
          case "wait for release" -> {
            while (!released) {
              run.progress(1, 10);
            }
            run.answer(Map.of("said", "at last"));
          }
          case "refuse" -> throw Problem.badRequest("Not like this", "Do it in another way.");
          default -> {
            BEGUN.incrementAndGet();
            throw new IllegalStateException("It fails");
          }
        }
      }
    };
  }
}

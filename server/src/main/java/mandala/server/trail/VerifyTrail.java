package mandala.server.trail;

import org.springframework.boot.ApplicationRunner;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** {@code ./mandala verify-trail}: reads the whole trail, says what it found, and ends. */
@Configuration
@ConditionalOnProperty("mandala.verify-trail")
class VerifyTrail {

  @Bean
  ApplicationRunner verification(Trail trail, ConfigurableApplicationContext context) {
    return _ -> {
      Trail.Verified found = trail.verify();
      String answer =
          found
              .fault()
              .map(fault -> "BROKEN: " + fault + ". The lines before it are sound.")
              .orElse("SOUND: " + found.lines() + " lines, head " + found.head());
      System.out.println(answer);
      int status = found.fault().isPresent() ? 1 : 0;
      new Thread(() -> System.exit(status)).start(); // ends once the context is up
    };
  }
}

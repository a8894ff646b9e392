package mandala.server.platform;

import java.time.Clock;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What is there once for all. */
@Configuration
class Platform {

  @Bean
  Clock clock() {
    return Clock.systemUTC();
  }
}

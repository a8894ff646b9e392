package mandala.server.platform;

import java.time.Clock;
import java.time.Duration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** What is there once for all. */
@Configuration
class Platform implements WebMvcConfigurer {

  /**
   * What the build names by its content may be kept for good; the page itself is always asked for.
   */
  @Override
  public void addResourceHandlers(ResourceHandlerRegistry registry) {
    registry
        .addResourceHandler("/assets/**")
        .addResourceLocations("classpath:/META-INF/resources/assets/")
        .setCacheControl(CacheControl.maxAge(Duration.ofDays(365)).immutable());
  }

  @Bean
  Clock clock() {
    return Clock.systemUTC();
  }
}

package mandala.server.platform;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.apache.catalina.core.StandardHost;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.format.FormatterRegistry;
import org.springframework.http.CacheControl;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.ResourceHandlerRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** What is there once for all. */
@Configuration
class Platform implements WebMvcConfigurer {

  private final FairShare fairShare;

  Platform(FairShare fairShare) {
    this.fairShare = fairShare;
  }

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

  @Override
  public void addInterceptors(InterceptorRegistry registry) {
    registry.addInterceptor(fairShare);
  }

  @Override
  @SuppressWarnings("NullAway") // a blank value converts to null, as the framework allows
  public void addFormatters(FormatterRegistry registry) {
    registry.addConverter(String.class, Instant.class, Instants::of);
  }

  @Bean
  WebServerFactoryCustomizer<TomcatServletWebServerFactory> errorPage() {
    return factory ->
        factory.addContextCustomizers(context ->
            ((StandardHost) context.getParent())
                .setErrorReportValveClass(ErrorPage.class.getName()));
  }

  @Bean
  Clock clock() {
    return Clock.systemUTC();
  }
}

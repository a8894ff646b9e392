package mandala.server;

import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;

/** The web application. */
@SpringBootApplication
@ConfigurationPropertiesScan
public class MandalaApplication {

  /** Starts the application. */
  public static void main(String[] args) {
    SpringApplication.run(MandalaApplication.class, args);
  }
}

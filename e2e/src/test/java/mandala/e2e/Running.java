package mandala.e2e;

import java.io.IOException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import mandala.server.MandalaApplication;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ParameterContext;
import org.junit.jupiter.api.extension.ParameterResolver;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/**
 * The built application with the demo on a database of its own, and one browser, for all journeys.
 */
final class Running implements ParameterResolver {

  private static final ExtensionContext.Namespace NAMESPACE =
      ExtensionContext.Namespace.create(Running.class);

  private record Started(ConfigurableApplicationContext application, Browser browser)
      implements AutoCloseable {
    @Override
    public void close() {
      browser.close();
      application.close();
    }
  }

  @Override
  public boolean supportsParameter(ParameterContext parameter, ExtensionContext context) {
    return parameter.getParameter().getType() == Browser.class;
  }

  @Override
  public Object resolveParameter(ParameterContext parameter, ExtensionContext context) {
    return context
        .getRoot()
        .getStore(NAMESPACE)
        .computeIfAbsent("started", _ -> start(), Started.class)
        .browser();
  }

  private static String required(String name) {
    String value = System.getenv(name);
    if (value == null) {
      throw new IllegalStateException(name + " is not set. Run the tests with ./mandala test");
    }
    return value;
  }

  private static Started start() {
    String url = required("MANDALA_TEST_DB_URL");
    String user = required("MANDALA_TEST_DB_USER");
    String password = required("MANDALA_TEST_DB_PASSWORD");
    try (Connection connection = DriverManager.getConnection(url + "postgres", user, password);
        var statement = connection.createStatement()) {
      statement.execute("drop database if exists journeys with (force)");
      statement.execute("create database journeys");
    } catch (SQLException e) {
      throw new IllegalStateException("No database for the journeys", e);
    }
    ConfigurableApplicationContext application =
        new SpringApplicationBuilder(MandalaApplication.class)
            .run(
                "--server.port=0",
                "--spring.datasource.url=" + url + "journeys",
                "--spring.datasource.username=" + user,
                "--spring.datasource.password=" + password,
                "--mandala.demo=true");
    try {
      String port = application.getEnvironment().getProperty("local.server.port");
      return new Started(application, new Browser("http://127.0.0.1:" + port));
    } catch (IOException e) {
      application.close();
      throw new IllegalStateException("No browser for the journeys", e);
    }
  }
}

package mandala.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ParameterContext;
import org.junit.jupiter.api.extension.ParameterResolver;

/** The application with the demo, and one browser, for all journeys. */
final class Running implements ParameterResolver {

  private static final ExtensionContext.Namespace NAMESPACE =
      ExtensionContext.Namespace.create(Running.class);

  private record Started(Application application, Browser browser) implements AutoCloseable {
    @Override
    public void close() {
      browser.close();
      application.close();
    }
  }

  @Override
  public boolean supportsParameter(ParameterContext parameter, ExtensionContext context) {
    Class<?> type = parameter.getParameter().getType();
    return type == Browser.class || type == Application.class;
  }

  @Override
  public Object resolveParameter(ParameterContext parameter, ExtensionContext context) {
    Started started =
        context
            .getRoot()
            .getStore(NAMESPACE)
            .computeIfAbsent("started", _ -> start(), Started.class);
    return parameter.getParameter().getType() == Browser.class
        ? started.browser()
        : started.application();
  }

  private static Started start() {
    Application application =
        Application.start("journeys_" + System.getProperty("test.fork", "1"), true);
    try {
      return new Started(application, new Browser(application));
    } catch (IOException e) {
      application.close();
      throw new UncheckedIOException("No browser for the journeys", e);
    }
  }
}

package mandala.server.platform;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.valves.ErrorReportValve;
import org.springframework.http.MediaType;
import tools.jackson.databind.json.JsonMapper;

/**
 * Answers what Tomcat refuses before any filter of ours sees it, such as a path that is not UTF-8,
 * by a problem document (RFC 9457) instead of a page of its own.
 */
public final class ErrorPage extends ErrorReportValve {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  /** Made by Tomcat by name. */
  public ErrorPage() {
    setShowReport(false);
    setShowServerInfo(false);
  }

  @Override
  protected void report(Request request, Response response, Throwable throwable) {
    int status = response.getStatus();
    if (status < 400 || response.getContentWritten() > 0 || !response.setErrorReported()) {
      return;
    }
    try {
      response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
      response.setCharacterEncoding(StandardCharsets.UTF_8);
      response
          .getReporter()
          .write(JSON.writeValueAsString(Problem.document(UnhandledErrors.of(status), status)));
      response.finishResponse();
    } catch (IOException | IllegalStateException e) {
      container.getLogger().debug("The caller is gone", e);
    }
  }
}

package mandala.server.platform;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Locale;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.CannotCreateTransactionException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;
import org.springframework.web.servlet.resource.NoResourceFoundException;

/** Turns whatever goes wrong in a call into a problem document (RFC 9457). */
@RestControllerAdvice
class ProblemAnswers extends ResponseEntityExceptionHandler {

  private static final Logger LOG = LoggerFactory.getLogger(ProblemAnswers.class);

  private final ApplicationEventPublisher events;

  ProblemAnswers(ApplicationEventPublisher events) {
    this.events = events;
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> problem(Problem problem, HttpServletRequest request) {
    ProblemDetail document = problem.document();
    if (document.getStatus() == HttpStatus.FORBIDDEN.value()) {
      events.publishEvent(new Refused(request, problem.title()));
    }
    return answer(document);
  }

  @ExceptionHandler({
    CannotCreateTransactionException.class,
    DataAccessResourceFailureException.class
  })
  ResponseEntity<ProblemDetail> databaseAway(Exception e) {
    LOG.warn("The database cannot be reached: {}", e.getMessage());
    return answer(Problem.databaseAway().document());
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> mismatch(MethodArgumentTypeMismatchException e) {
    return answer(
        Problem.badRequest(
                "'" + e.getName() + "' cannot be read",
                "Found '" + e.getValue() + "'. Give " + expected(e) + ".")
            .document());
  }

  private static String expected(MethodArgumentTypeMismatchException e) {
    Class<?> type = e.getRequiredType();
    if (type == null) {
      return "another value";
    }
    return switch (type.getSimpleName()) {
      case "Instant" -> "an instant like 2026-05-01T09:00:00Z";
      case "boolean", "Boolean" -> "true or false";
      case "int", "Integer" -> "a whole number";
      default -> "a value of the kind " + type.getSimpleName().toLowerCase(Locale.ROOT);
    };
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> unexpected(RuntimeException e, HttpServletRequest request) {
    if (DatabaseOutage.isOne(e)) {
      return databaseAway(e);
    }
    LOG.error("Unexpected failure at {} {}", request.getMethod(), request.getRequestURI(), e);
    ProblemDetail document = ProblemDetail.forStatus(HttpStatus.INTERNAL_SERVER_ERROR);
    document.setTitle("Something went wrong in Mandala");
    document.setDetail("Nothing was changed. Try again; if it stays, tell whoever runs Mandala.");
    return answer(document);
  }

  @Override
  protected ResponseEntity<Object> handleNoResourceFoundException(
      NoResourceFoundException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
    return ResponseEntity.status(status)
        .contentType(MediaType.APPLICATION_PROBLEM_JSON)
        .body(Problem.notFound("Nothing answers at /" + e.getResourcePath() + ".").document());
  }

  static ResponseEntity<ProblemDetail> answer(ProblemDetail document) {
    return ResponseEntity.status(document.getStatus())
        .contentType(MediaType.APPLICATION_PROBLEM_JSON)
        .body(document);
  }
}

package mandala.server.platform;

import jakarta.servlet.http.HttpServletRequest;
import java.sql.SQLException;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.beans.TypeMismatchException;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.transaction.CannotCreateTransactionException;
import org.springframework.validation.FieldError;
import org.springframework.web.bind.MethodArgumentNotValidException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;
import org.springframework.web.servlet.resource.NoResourceFoundException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DatabindException;

/** Turns whatever goes wrong in a call into a problem document (RFC 9457). */
@RestControllerAdvice
class ProblemAnswers extends ResponseEntityExceptionHandler {

  private static final String CHECK_THE_CALL = "Check the call against the API description.";

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
    return answer(unreadable(e.getName(), e.getValue(), e.getRequiredType()).document());
  }

  private static Problem unreadable(String name, @Nullable Object found, @Nullable Class<?> type) {
    return Problem.badRequest(
        "'" + name + "' cannot be read", "Found '" + found + "'. Give " + expected(type) + ".");
  }

  private static String expected(@Nullable Class<?> type) {
    if (type == null) {
      return "another value";
    }
    return switch (type.getSimpleName()) {
      case "Instant" -> "an instant like 2026-05-01T09:00:00Z";
      case "boolean", "Boolean" -> "true or false";
      case "int", "Integer", "long", "Long" -> "a whole number";
      default -> "a value of the kind " + type.getSimpleName().toLowerCase(Locale.ROOT);
    };
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> unexpected(RuntimeException e, HttpServletRequest request) {
    if (DatabaseOutage.isOne(e)) {
      return databaseAway(e);
    }
    if (isClash(e)) {
      LOG.warn("Two calls clashed at {} {}", request.getMethod(), request.getRequestURI(), e);
      return answer(
          Problem.conflict(
                  "Something else was changed at the same moment",
                  "Nothing of this was saved. Try again.")
              .document());
    }
    LOG.error("Unexpected failure at {} {}", request.getMethod(), request.getRequestURI(), e);
    return answer(Problem.failed().document());
  }

  /** Whether the database ended a transaction for the sake of another one (class 40, or 55P03). */
  private static boolean isClash(@Nullable Throwable e) {
    for (Throwable at = e; at != null; at = at.getCause()) {
      if (at instanceof SQLException sql
          && sql.getSQLState() != null
          && (sql.getSQLState().startsWith("40") || sql.getSQLState().equals("55P03"))) {
        return true;
      }
    }
    return false;
  }

  @Override
  protected ResponseEntity<Object> handleNoResourceFoundException(
      NoResourceFoundException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
    return ResponseEntity.status(status)
        .contentType(MediaType.APPLICATION_PROBLEM_JSON)
        .body(Problem.notFound("Nothing answers at /" + e.getResourcePath() + ".").document());
  }

  @Override
  protected ResponseEntity<Object> handleHttpMessageNotReadable(
      HttpMessageNotReadableException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    String detail =
        switch (e.getCause()) {
          case DatabindException it when !it.getPath().isEmpty() ->
              "At " + path(it) + ": " + sentence(it.getOriginalMessage()) + CHECK_THE_CALL;
          case JacksonException it ->
              "It is not the JSON expected: " + sentence(it.getOriginalMessage()) + CHECK_THE_CALL;
          case null, default -> "Send a JSON document as the API description shows.";
        };
    return createResponseEntity(
        Problem.badRequest("The body can't be read", detail).document(), headers, status, request);
  }

  private static String path(DatabindException e) {
    StringBuilder path = new StringBuilder("$");
    e.getPath()
        .forEach(it ->
            path.append(
                it.getPropertyName() == null
                    ? "[" + it.getIndex() + "]"
                    : "." + it.getPropertyName()));
    return path.toString();
  }

  /** The first line, ended by a full stop and a space. */
  private static String sentence(@Nullable String message) {
    String line = message == null ? "" : message.lines().findFirst().orElse("");
    String cut = line.length() > 200 ? line.substring(0, 197) + "…" : line;
    return cut.endsWith(".") ? cut + " " : cut + ". ";
  }

  @Override
  protected ResponseEntity<Object> handleMethodArgumentNotValid(
      MethodArgumentNotValidException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    FieldError first = e.getFieldError();
    if (first != null && first.isBindingFailure()) {
      Class<?> type =
          first.contains(TypeMismatchException.class)
              ? first.unwrap(TypeMismatchException.class).getRequiredType()
              : null;
      Problem problem = unreadable(first.getField(), first.getRejectedValue(), type);
      return createResponseEntity(problem.document(), headers, status, request);
    }
    if (first != null && first.getRejectedValue() == null && isOfAddress(e)) {
      Problem problem =
          Problem.badRequest(
              "Bad Request",
              "Required parameter '" + first.getField() + "' is not present. " + CHECK_THE_CALL);
      return createResponseEntity(problem.document(), headers, status, request);
    }
    String detail =
        e.getFieldErrors().stream()
            .map(it -> "'" + it.getField() + "' " + it.getDefaultMessage())
            .sorted()
            .collect(Collectors.joining("; ", "Correct what is listed: ", "."));
    return createResponseEntity(
        Problem.badRequest("The request has errors", detail).document(), headers, status, request);
  }

  private static boolean isOfAddress(MethodArgumentNotValidException e) {
    return e.getParameter().hasParameterAnnotation(ParameterObject.class);
  }

  /** Errors that the framework describes in one sentence: they get a next step, too. */
  private static @Nullable Object withNextStep(@Nullable Object body) {
    String detail = body instanceof ProblemDetail it ? it.getDetail() : null;
    if (body instanceof ProblemDetail it
        && detail != null
        && !detail.contains(". ")
        && !String.valueOf(it.getType()).startsWith("urn:")) {
      it.setDetail(detail + (detail.endsWith(".") ? "" : ".") + " " + CHECK_THE_CALL);
    }
    return body;
  }

  /** A problem document goes out as what it is, whatever the caller accepts (RFC 9110, 15.5.7). */
  @Override
  protected ResponseEntity<Object> createResponseEntity(
      @Nullable Object body, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
    return ResponseEntity.status(status)
        .headers(headers)
        .contentType(MediaType.APPLICATION_PROBLEM_JSON)
        .body(withNextStep(body));
  }

  static ResponseEntity<ProblemDetail> answer(ProblemDetail document) {
    return ResponseEntity.status(document.getStatus())
        .contentType(MediaType.APPLICATION_PROBLEM_JSON)
        .body(document);
  }
}

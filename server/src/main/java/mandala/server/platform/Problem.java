package mandala.server.platform;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.URI;
import java.util.List;
import java.util.Map;
import mandala.core.model.check.Fault;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import tools.jackson.databind.json.JsonMapper;

/**
 * A refusal that tells people what is wrong and what to do; it is answered as a problem document
 * (RFC 9457) whose {@code type} is {@code urn:mandala:problem:KIND}.
 */
public final class Problem extends RuntimeException {

  private static final String NOT_FOUND_STEP =
      " Check the spelling, and whether your access covers it.";

  private static final String FORBIDDEN_STEP = " Ask a security administrator.";

  private final HttpStatus status;
  private final String kind;
  private final String title;
  private final List<Fault> faults;

  private Problem(HttpStatus status, String kind, String title, String detail, List<Fault> faults) {
    super(detail);
    this.status = status;
    this.kind = kind;
    this.title = title;
    this.faults = List.copyOf(faults);
  }

  /** {@return a problem with what was sent} */
  public static Problem badRequest(String title, String detail) {
    return new Problem(HttpStatus.BAD_REQUEST, "bad-request", title, detail, List.of());
  }

  /** {@return a document with faults} */
  public static Problem faulty(String title, List<Fault> faults) {
    return new Problem(
        HttpStatus.UNPROCESSABLE_CONTENT,
        "faulty-document",
        title,
        "Nothing was changed. Fix the errors listed and send it again.",
        faults);
  }

  /** {@return that what somebody wants to change has faults} */
  public static Problem faultyChange(String title, String detail, List<Fault> faults) {
    return new Problem(HttpStatus.UNPROCESSABLE_CONTENT, "faulty-change", title, detail, faults);
  }

  /** {@return that nobody is signed in} */
  public static Problem signedOut(String detail) {
    return new Problem(
        HttpStatus.UNAUTHORIZED, "signed-out", "You are not signed in", detail, List.of());
  }

  /**
   * {@return that the viewer may not do something}
   *
   * @param detail what they lack; where it is one sentence, a next step is added
   */
  public static Problem forbidden(String detail) {
    String step = detail.contains(". ") ? "" : FORBIDDEN_STEP;
    return new Problem(
        HttpStatus.FORBIDDEN,
        "not-allowed",
        "Your access does not cover this",
        detail + step,
        List.of());
  }

  /**
   * {@return that something is not there, or not to be seen}
   *
   * @param detail what is not there; where it is one sentence, a next step is added
   */
  public static Problem notFound(String detail) {
    String step = detail.contains(". ") ? "" : NOT_FOUND_STEP;
    return new Problem(HttpStatus.NOT_FOUND, "unknown", "Not found", detail + step, List.of());
  }

  /** {@return that the state does not allow it now} */
  public static Problem conflict(String title, String detail) {
    return new Problem(HttpStatus.CONFLICT, "conflict", title, detail, List.of());
  }

  /** {@return that it was tried too often} */
  public static Problem tooMany(String detail) {
    return new Problem(
        HttpStatus.TOO_MANY_REQUESTS, "too-many", "Too many attempts", detail, List.of());
  }

  /** {@return that too much is going on at once} */
  public static Problem busy(String detail) {
    return new Problem(
        HttpStatus.TOO_MANY_REQUESTS, "busy", "Too many calls at once", detail, List.of());
  }

  /** {@return that too much was sent} */
  public static Problem tooLarge(String detail) {
    return new Problem(
        HttpStatus.CONTENT_TOO_LARGE, "too-large", "The document is too large", detail, List.of());
  }

  /** {@return that something failed in Mandala itself} */
  static Problem failed() {
    return new Problem(
        HttpStatus.INTERNAL_SERVER_ERROR,
        "failed",
        "Something went wrong in Mandala",
        "Nothing was changed. Try again; if it keeps failing, ask your administrator.",
        List.of());
  }

  /** {@return that the database cannot be reached} */
  public static Problem databaseAway() {
    return new Problem(
        HttpStatus.SERVICE_UNAVAILABLE,
        "database-away",
        "The database cannot be reached",
        "Nothing was changed. Try again in a moment; what you typed is still here.",
        List.of());
  }

  /** {@return what is wrong, in short}; it names nothing */
  public String title() {
    return title;
  }

  /** Answers a call with it, ahead of every controller. */
  public void send(HttpServletResponse response, JsonMapper json) throws IOException {
    ProblemDetail document = document();
    response.setStatus(document.getStatus());
    response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
    json.writeValue(response.getOutputStream(), document);
  }

  /** {@return the problem document, with the status that was already set} */
  static Map<String, Object> document(Problem problem, int status) {
    return Map.of(
        "type",
        "urn:mandala:problem:" + problem.kind,
        "title",
        problem.title,
        "status",
        status,
        "detail",
        String.valueOf(problem.getMessage()));
  }

  /** {@return the problem document} */
  public ProblemDetail document() {
    ProblemDetail document = ProblemDetail.forStatusAndDetail(status, getMessage());
    document.setType(URI.create("urn:mandala:problem:" + kind));
    document.setTitle(title);
    if (!faults.isEmpty()) {
      document.setProperty("faults", faults);
    }
    return document;
  }
}

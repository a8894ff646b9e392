package mandala.server.platform;

import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.RequestDispatcher;
import jakarta.servlet.http.HttpServletRequest;
import org.springframework.boot.webmvc.error.ErrorController;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/**
 * Answers what no controller saw, such as an address that the firewall refuses, by a problem
 * document (RFC 9457). Called directly, it is an address at which nothing answers.
 */
@Hidden
@RestController
class UnhandledErrors implements ErrorController {

  @RequestMapping("/error")
  ResponseEntity<ProblemDetail> error(HttpServletRequest request) {
    Object status = request.getAttribute(RequestDispatcher.ERROR_STATUS_CODE);
    return ProblemAnswers.answer(
        status instanceof Integer code
            ? of(code).document()
            : Problem.notFound("Nothing answers at /error.").document());
  }

  /** {@return what to say of a status that was set without words} */
  static Problem of(int status) {
    return switch (HttpStatus.Series.resolve(status)) {
      case CLIENT_ERROR ->
          status == HttpStatus.NOT_FOUND.value()
              ? Problem.notFound("There is nothing at this address. Check it.")
              : Problem.badRequest(
                  "The request can't be read",
                  "Its address or headers are malformed. Correct them and send it again.");
      case null, default -> Problem.failed();
    };
  }
}

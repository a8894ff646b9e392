package mandala.server.platform;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.Collections;
import org.jspecify.annotations.Nullable;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.util.UriUtils;
import tools.jackson.databind.json.JsonMapper;

/**
 * Answers 400 to calls whose address or headers contain something that is not text: percent codes
 * that are not hexadecimal, bytes that are not UTF-8 (RFC 3629), or the character U+0000, which
 * PostgreSQL can't store. Bodies are checked by {@link StrictText} as they are read.
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 5)
class RequestText extends OncePerRequestFilter {

  private final JsonMapper json;

  RequestText(JsonMapper json) {
    this.json = json;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    Problem problem = problem(request);
    if (problem == null) {
      chain.doFilter(request, response);
    } else {
      problem.send(response, json);
    }
  }

  private static @Nullable Problem problem(HttpServletRequest request) {
    if (!isText(request.getRequestURI())) {
      return Problem.badRequest(
          "The address can't be read",
          "Its path has a percent code that is not UTF-8 text. Encode the path as UTF-8.");
    }
    for (String part : request.getRequestURI().split("/", -1)) {
      if (!part.isEmpty() && decoded(part).isBlank()) {
        return Problem.notFound("The address has a blank part. Give a key there.");
      }
    }
    String query = request.getQueryString();
    for (String parameter : query == null ? new String[0] : query.split("&")) {
      String name = parameter.split("=", 2)[0];
      if (!isText(parameter)) {
        return Problem.badRequest(
            isText(name) ? "'" + name + "' can't be read" : "A parameter can't be read",
            "Its value has a percent code that is not UTF-8 text, or the character U+0000. Encode"
                + " parameters as UTF-8.");
      }
    }
    String type = request.getContentType();
    if (type != null && type.indexOf('*') >= 0) {
      return Problem.badRequest(
          "The header Content-Type names no type",
          "It is '" + type + "'. Write the type of what you send, like application/json.");
    }
    for (String header : Collections.list(request.getHeaderNames())) {
      for (String value : Collections.list(request.getHeaders(header))) {
        if (value.indexOf('\0') >= 0) {
          return Problem.badRequest(
              "The header " + header + " can't be read",
              "It has the character U+0000. Send the header as text.");
        }
      }
    }
    return null;
  }

  /** {@return whether percent-encoded text decodes to UTF-8 without U+0000} */
  static boolean isText(String encoded) {
    try {
      return decoded(encoded).indexOf('\0') < 0;
    } catch (IllegalArgumentException e) {
      return false;
    }
  }

  /**
   * Decodes strictly; throws IllegalArgumentException where the code or the bytes are malformed.
   */
  private static String decoded(String encoded) {
    try {
      byte[] bytes =
          UriUtils.decode(encoded, StandardCharsets.ISO_8859_1)
              .getBytes(StandardCharsets.ISO_8859_1);
      return StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes)).toString();
    } catch (CharacterCodingException e) {
      throw new IllegalArgumentException(e);
    }
  }
}

package mandala.server.session;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.regex.Pattern;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.session.web.http.DefaultCookieSerializer;
import org.springframework.stereotype.Component;

/**
 * The cookie that carries a session's id. A value that is no id is as if there were no cookie: it
 * never reaches the database.
 */
@Component
class SessionCookie extends DefaultCookieSerializer {

  private static final Pattern ID = Pattern.compile("[0-9a-f-]{36}");

  SessionCookie(@Value("${server.servlet.session.cookie.name}") String name) {
    setCookieName(name);
    setSameSite("Lax");
    setUseHttpOnlyCookie(true);
  }

  @Override
  public List<String> readCookieValues(HttpServletRequest request) {
    return super.readCookieValues(request).stream()
        .filter(value -> ID.matcher(value).matches())
        .toList();
  }
}

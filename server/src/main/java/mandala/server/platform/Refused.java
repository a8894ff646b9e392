package mandala.server.platform;

import jakarta.servlet.http.HttpServletRequest;

/**
 * Told when somebody's access does not cover a call.
 *
 * @param why what they were told
 */
public record Refused(HttpServletRequest call, String why) {}

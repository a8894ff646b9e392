package mandala.server.platform;

import jakarta.servlet.http.HttpServletRequest;

/**
 * Told when somebody's access does not cover a call.
 *
 * @param title what they were told in short, without what they asked about
 */
public record Refused(HttpServletRequest call, String title) {}

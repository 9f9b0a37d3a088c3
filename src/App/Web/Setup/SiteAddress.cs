namespace SteadyLintel.Web;

/// <summary>The site's address, for links in mails.</summary>
/// <param name="configuration">May say it (<c>Site:Address</c>): behind a proxy requests do not.</param>
public sealed class SiteAddress(IConfiguration configuration)
{
    /// <summary>The address without a slash at its end.</summary>
    public string Of(HttpRequest request) =>
        configuration["Site:Address"] is { Length: > 0 } address ? address.TrimEnd('/') : $"{request.Scheme}://{request.Host}";
}

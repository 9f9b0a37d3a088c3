using SteadyLintel.Exchange;

namespace SteadyLintel.Jobs;

/// <summary>An order's words as they are stored: an older program may have saved what this one does not read.</summary>
public static class StoredOrder
{
    /// <summary>Reads stored words.</summary>
    /// <param name="spec">The words.</param>
    /// <returns>The order, and why it cannot be read: it is then one for everything, to begin again with.</returns>
    public static (OrderDocument Document, string? Problem) Read(string spec)
    {
        try
        {
            return (OrderDocument.Read(spec), null);
        }
        catch (OrderException e)
        {
            return (Orders.Everything, e.Message);
        }
    }
}

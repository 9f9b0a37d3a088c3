namespace SteadyLintel.Exchange;

/// <summary>Says before a run whether the files that it would write can have their names.</summary>
public static class NamePreview
{
    /// <summary>What is wrong with the names; null when nothing is.</summary>
    /// <param name="order">The order.</param>
    /// <param name="job">The job's code.</param>
    /// <param name="date">The day, ISO 8601.</param>
    /// <param name="files">What the words mean in each file.</param>
    public static string? Problem(HandoverOrder order, string job, string date, IEnumerable<NameValues> files)
    {
        var names = new FileNames(order.NameTemplate, job, order.Unit?.Code ?? "", order.To, date);
        try
        {
            foreach (var file in files)
                names.Next(file, "");
        }
        catch (OrderException e)
        {
            return e.Message;
        }

        return null;
    }
}

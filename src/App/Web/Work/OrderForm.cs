namespace SteadyLintel.Web;

/// <summary>The sentence as the browser sends it.</summary>
public sealed class OrderForm
{
    /// <summary>What the order is called.</summary>
    public string? Title { get; set; }

    /// <summary>Who gets it.</summary>
    public string? To { get; set; }

    /// <summary>Chosen sources.</summary>
    public List<Guid> Sources { get; set; } = [];

    /// <summary>Chosen storeys.</summary>
    public List<string> Storeys { get; set; } = [];

    /// <summary>Chosen classes.</summary>
    public List<string> Classes { get; set; } = [];

    /// <summary>Chosen layers.</summary>
    public List<string> Layers { get; set; } = [];

    /// <summary>The form.</summary>
    public string? Form { get; set; }

    /// <summary>The unit.</summary>
    public string? Unit { get; set; }

    /// <summary>The split.</summary>
    public bool ByStorey { get; set; }

    /// <summary>The name template.</summary>
    public string? Name { get; set; }

    /// <summary>The order to save.</summary>
    public OrderSpec ToSpec() => new(To?.Trim() ?? "", Sources, Storeys, Classes, Layers, Form ?? "ifc", Unit ?? "", ByStorey, Name?.Trim() ?? "");
}

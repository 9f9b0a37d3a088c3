using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Gives a model that lies at map coordinates the map conversion that says so, where it has none.</summary>
/// <remarks>ISO 16739-1, IfcMapConversion and IfcProjectedCRS, which IFC2X3 does not have. Lengths are in the project's unit, as no map
/// unit
/// is given.</remarks>
public sealed class MapRewrite : IRewrite
{
    private readonly IfcModel _model;
    private readonly MapPlace _map;
    private readonly double _metres;
    private readonly int _context;

    /// <summary>Prepares it.</summary>
    /// <param name="model">The model.</param>
    /// <param name="map">Where the job lies on the map.</param>
    /// <param name="metres">Metres in the unit that is written.</param>
    public MapRewrite(IfcModel model, MapPlace map, double metres)
    {
        (_model, _map, _metres) = (model, map, metres);
        var contexts = model
            .OfType("IfcGeometricRepresentationContext")
            .Where(c => !model.Is(c, "IfcGeometricRepresentationSubContext"))
            .ToList();
        _context = contexts.Where(c => model.Text(c, "ContextType") != "Plan").Concat(contexts).Append(-1).First();
    }

    /// <summary>Whether a model needs it.</summary>
    internal static bool IsNeeded(IfcModel model, string schema) =>
        schema != "IFC2X3" && !model.OfType("IfcMapConversion").Any();

    /// <inheritdoc/>
    public bool Touches(int index) => index == _context;

    /// <inheritdoc/>
    public void Apply(InstanceText text, NewInstances fresh)
    {
        int system = fresh.Once(
            "IFCPROJECTEDCRS",
            $"{StepWriter.String(_map.System.Length > 0 ? _map.System : "unnamed")},$,$,$,$,$,$"
        );
        var shift = _map.Shift * (1 / _metres);
        fresh.Add(
            "IFCMAPCONVERSION",
            $"#{_model.File.Id(_context)},#{system},{N(shift.X)},{N(shift.Y)},{N(shift.Z)},1.,0.,{N(_map.Scale)}"
        );
    }

    /// <inheritdoc/>
    /// <remarks>The context itself stays as it is; what is new hangs on it.</remarks>
    public void Expect(ExpectedInstance expected) { }

    private static string N(double value) => StepNumber.Format(value);
}

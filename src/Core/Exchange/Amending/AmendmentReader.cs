using System.Globalization;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Reads what a model says of what amendments are about.</summary>
/// <param name="snapshot">The model.</param>
public sealed class AmendmentReader(ModelSnapshot snapshot)
{
    /// <summary>The element of amendments of the file itself.</summary>
    public const string File = "file";

    private readonly IfcModel _model = snapshot.Model;
    private Dictionary<string, int>? _roots;

    /// <summary>The instance that an amendment is about.</summary>
    /// <param name="globalId">Its GlobalId.</param>
    /// <returns>-1 where the model has none of it.</returns>
    public int IndexOf(string globalId)
    {
        if (_roots is null)
        {
            _roots = new(StringComparer.Ordinal);
            foreach (int root in _model.OfType(e => e.Is("IfcProduct") || e.Is("IfcProject")))
                _roots.TryAdd(_model.GlobalId(root), root);
        }

        return _roots.GetValueOrDefault(globalId, -1);
    }

    /// <summary>What the model says.</summary>
    /// <param name="amendment">What is asked.</param>
    /// <param name="index">The instance it is about; -1 for the file.</param>
    public FileStatement Read(Amendment amendment, int index) =>
        amendment.Kind switch
        {
            AmendmentKind.Property or AmendmentKind.RemoveProperty => Property(index, amendment.Set!, amendment.Name!),
            AmendmentKind.RemoveSet => Set(index, amendment.Set!),
            AmendmentKind.Name or AmendmentKind.Mark or AmendmentKind.Description => FileStatement.Of(
                _model.Text(index, AttributeAmender.AttributeOf(amendment.Kind))
            ),
            AmendmentKind.Type => Named(snapshot.Relations.Type.First(index)),
            AmendmentKind.Class => FileStatement.Of(ClassOf(index)),
            AmendmentKind.Storey => FileStatement.Of(
                snapshot.Structure.StoreyOf(index) is >= 0 and var storey ? snapshot.StoreyName(storey) : null
            ),
            AmendmentKind.Layer => Joined(snapshot.Layers.Of(index)),
            AmendmentKind.Material => Joined(snapshot.Materials.Of(index).Select(m => m.Name).Distinct()),
            AmendmentKind.Classification => FileStatement.Of(
                snapshot.Classifications.Of(index).FirstOrDefault(c => c.System == amendment.Set) is { } use
                    ? $"{use.Code} {use.Name}".Trim()
                    : null
            ),
            AmendmentKind.Zone or AmendmentKind.System => FileStatement.Of(IsIn(amendment, index) ? "yes" : null),
            AmendmentKind.Move => FileStatement.Of(Place(index)),
            AmendmentKind.Length => Length(index),
            AmendmentKind.Model => Model(index, amendment.Name!),
            _ => FileStatement.None,
        };

    /// <summary>What the model says once an amendment is applied, as the amendment itself has it.</summary>
    /// <param name="amendment">The amendment.</param>
    /// <param name="index">The instance it is about; -1 for the file.</param>
    /// <returns>Null where only a second reading can tell, as of a move.</returns>
    public FileStatement? Wanted(Amendment amendment, int index)
    {
        switch (amendment.Kind)
        {
            case AmendmentKind.Property:
                return Value(amendment, Property(index, amendment.Set!, amendment.Name!));
            case AmendmentKind.RemoveProperty or AmendmentKind.RemoveSet:
                return FileStatement.None;
            case AmendmentKind.Classification:
                return amendment is { Value: "", Name: "-" }
                    ? FileStatement.None
                    : FileStatement.Of($"{amendment.Name} {amendment.Value}".Trim());
            case AmendmentKind.Zone or AmendmentKind.System:
                return amendment.Value == "yes" ? FileStatement.Of("yes") : FileStatement.None;
            case AmendmentKind.Class:
                return FileStatement.Of(amendment.Value!);
            case AmendmentKind.Move:
                return Moved(amendment, index) is { } place ? FileStatement.Of(Text(place)) : null;
            case AmendmentKind.Length:
                return WantedFrom(amendment, Length(index));
            case AmendmentKind.LeaveOut:
                return FileStatement.None;
            default:
                return amendment.Value is "" ? FileStatement.None : FileStatement.Of(amendment.Value);
        }
    }

    /// <summary>What a move or another length makes of what a file said.</summary>
    /// <returns>Null where the file said nothing of the kind.</returns>
    internal static FileStatement? WantedFrom(Amendment amendment, FileStatement was)
    {
        if (amendment.Kind == AmendmentKind.Length)
            return double.TryParse(was.Text, CultureInfo.InvariantCulture, out double length)
                ? FileStatement.Of(Number(length + (amendment.Start ?? 0) + (amendment.End ?? 0)), "m")
                : null;
        double[] n = [.. was.Text.Split([' ', '/'], StringSplitOptions.RemoveEmptyEntries).Select(Parsed)];
        if (n.Length != 9)
            return null;
        var world = Frame.FromAxes(new(n[0], n[1], n[2]), new(n[6], n[7], n[8]), new(n[3], n[4], n[5]));
        return FileStatement.Of(Text(PlaceAmender.MoveOf(amendment, world).Compose(world)));
    }

    private static double Parsed(string text) =>
        double.TryParse(text, CultureInfo.InvariantCulture, out double value) ? value : double.NaN;

    /// <summary>The place that an amendment moves an element to; null where its place cannot be read.</summary>
    internal Frame? Moved(Amendment amendment, int index)
    {
        try
        {
            var world = snapshot.Shapes.Placements.Product(index);
            return PlaceAmender.MoveOf(amendment, world).Compose(world);
        }
        catch (ShapeException)
        {
            return null;
        }
    }

    private FileStatement Property(int index, string set, string name)
    {
        foreach (var property in snapshot.Properties.Of(index).Where(s => s.Name == set).SelectMany(s => s.Properties))
            if (property.Name == name)
                return FileStatement.Of(property.Value, property.Value.Length > 0 ? property.Unit : "");
        return FileStatement.None;
    }

    // What a property reads once it has the amendment's value.
    private static FileStatement Value(Amendment amendment, FileStatement now)
    {
        if (amendment.Value!.Trim().Length == 0)
            return now.Is == FileStatement.Missing ? FileStatement.None : FileStatement.Empty;
        string type = PropertyTypes.Find(amendment.Type ?? "") ?? "";
        try
        {
            var form = PropertyForms.Find(amendment.Form ?? "") ?? PropertyForm.Single;
            var value = TypedValue.Read(
                amendment.Value,
                form,
                type.Length > 0 ? type : TypedValue.TypeOf(amendment.Value)
            );
            var unit = value.Parts[0].Unit
                ?? (amendment.Unit is { Length: > 0 } symbol ? PropertyUnit.Find(symbol) : null);
            return form switch
            {
                PropertyForm.Enumerated or PropertyForm.List => FileStatement.Of(
                    string.Join(", ", value.Parts.Select(p => p.Text))
                ),
                PropertyForm.Single => FileStatement.Of(value.Parts[0].Text, unit?.Symbol ?? ""),
                _ => FileStatement.Of(amendment.Value.Trim()),
            };
        }
        catch (FormatException)
        {
            return FileStatement.Of(amendment.Value.Trim());
        }
    }

    private FileStatement Set(int index, string name)
    {
        var sets = snapshot.Properties.Of(index).Where(s => s.Name == name).ToList();
        return sets.Count == 0
            ? FileStatement.None
            : FileStatement.Of(
                string.Join("; ", sets.SelectMany(s => s.Properties).Select(p => $"{p.Name}={p.Value}"))
            );
    }

    private string ClassOf(int index)
    {
        string word = _model.Get(index, "PredefinedType").Enumeration ?? "";
        if (word == "USERDEFINED")
            word = _model.Text(index, "ObjectType") ?? word;
        return word is "" or "NOTDEFINED" ? _model.ClassName(index) : $"{_model.ClassName(index)}.{word}";
    }

    private FileStatement Named(int index) => index < 0 ? FileStatement.None : FileStatement.Of(_model.Name(index));

    private static FileStatement Joined(IEnumerable<string> names, string sign = ", ") =>
        FileStatement.Of(
            names.Where(n => n.Length > 0).ToList() is { Count: > 0 } list ? string.Join(sign, list) : null
        );

    private bool IsIn(Amendment amendment, int index)
    {
        string kind = amendment.Kind == AmendmentKind.Zone ? "IfcZone" : "IfcSystem";
        return _model
            .OfType("IfcRelAssignsToGroup")
            .Any(r =>
                _model.Ref(r, "RelatingGroup") is >= 0 and var group
                && _model.Is(group, kind)
                && _model.Name(group) == amendment.Name
                && _model.Refs(r, "RelatedObjects").Contains(index)
            );
    }

    private string? Place(int index)
    {
        try
        {
            return _model.Ref(index, "ObjectPlacement") < 0 ? null : Text(snapshot.Shapes.Placements.Product(index));
        }
        catch (ShapeException)
        {
            return null;
        }
    }

    // To a hundredth of a millimetre, and the directions to a hundredth of a second of arc.
    private static string Text(Frame f) =>
        string.Join(' ', new[] { f.Origin.X, f.Origin.Y, f.Origin.Z }.Select(v => Fixed(v, 5)))
        + " / "
        + string.Join(' ', new[] { f.X.X, f.X.Y, f.X.Z, f.Z.X, f.Z.Y, f.Z.Z }.Select(v => Fixed(v, 7)));

    private static string Fixed(double value, int digits)
    {
        double rounded = Math.Round(value, digits);
        return (rounded == 0 ? 0 : rounded).ToString(
            "F" + digits.ToString(CultureInfo.InvariantCulture),
            CultureInfo.InvariantCulture
        );
    }

    private FileStatement Length(int index)
    {
        int solid = LengthAmender.SolidOf(snapshot, index, out _);
        return solid < 0
            ? FileStatement.None
            : FileStatement.Of(Number(_model.Get(solid, "Depth").Real * snapshot.Units.Metres), "m");
    }

    private static string Number(double value) => Math.Round(value, 9).ToString("R", CultureInfo.InvariantCulture);

    private FileStatement Model(int index, string name)
    {
        if (index < 0)
            return Joined(name == "author" ? _model.File.Header.Author : _model.File.Header.Organization, "; ");
        if (AttributeAmender.Attributes.TryGetValue(name, out string? attribute))
            return FileStatement.Of(_model.Text(index, attribute));
        if (name == "classification")
            return Joined(
                _model
                    .OfType("IfcRelAssociatesClassification")
                    .Where(r => _model.Refs(r, "RelatedObjects").Contains(index))
                    .Select(r => _model.Name(_model.Ref(r, "RelatingClassification")))
            );
        if (!AttributeAmender.Address.TryGetValue(name, out string? part))
            return FileStatement.None;
        int address = _model.Ref(index, _model.Is(index, "IfcSite") ? "SiteAddress" : "BuildingAddress");
        if (part != "AddressLines")
            return FileStatement.Of(_model.Text(address, part));
        var lines = new List<string>();
        foreach (var line in _model.Get(address, part).Items)
            lines.Add(line.Text ?? "");
        return FileStatement.Of(lines.Count == 0 ? null : string.Join("; ", lines));
    }
}

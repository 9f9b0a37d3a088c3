using System.Globalization;
using System.Text;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Decides what several models share when they become one file: one project, one unit assignment, contexts, owners, materials and
/// styles that are alike.</summary>
internal sealed class MergePlan
{
    // Instances without identity of their own: alike in all they say, they are one.
    private static readonly HashSet<string> Alike =
    [
        "IfcPerson",
        "IfcOrganization",
        "IfcPersonAndOrganization",
        "IfcActorRole",
        "IfcPostalAddress",
        "IfcTelecomAddress",
        "IfcApplication",
        "IfcOwnerHistory",
        "IfcSIUnit",
        "IfcConversionBasedUnit",
        "IfcDerivedUnit",
        "IfcDerivedUnitElement",
        "IfcMeasureWithUnit",
        "IfcDimensionalExponents",
        "IfcMonetaryUnit",
        "IfcMaterial",
        "IfcMaterialLayer",
        "IfcMaterialLayerSet",
        "IfcMaterialList",
        "IfcColourRgb",
        "IfcSurfaceStyle",
        "IfcSurfaceStyleRendering",
        "IfcSurfaceStyleShading",
        "IfcPresentationStyleAssignment",
        "IfcClassification",
        "IfcProjectedCRS",
    ];

    private readonly IReadOnlyList<ModelSnapshot> _sources;
    private readonly int[] _offsets;
    private readonly Dictionary<int, int>[] _shared;
    private readonly Dictionary<int, string>[] _newIds;
    private readonly HashSet<int>[] _left;
    private readonly Dictionary<string, int> _known = new(StringComparer.Ordinal);
    private readonly List<int> _contexts = [];
    private readonly Dictionary<(int, int), int> _fresh = [];
    private int _next;

    /// <summary>Plans a merge.</summary>
    /// <param name="sources">The models; the first gives project, units and contexts.</param>
    /// <param name="kept">For each model, whether an instance is written.</param>
    /// <exception cref="OrderException">Together they have more instance names than a file can have.</exception>
    public MergePlan(IReadOnlyList<ModelSnapshot> sources, IReadOnlyList<Func<int, bool>> kept)
    {
        _sources = sources;
        _offsets = new int[sources.Count];
        long next = 0;
        for (int s = 0; s < sources.Count; s++)
        {
            if (next > int.MaxValue / 2)
                throw new OrderException("Together the sources have more instances than one file can name.");
            _offsets[s] = (int)next;
            next += sources[s].Model.File.MaxId;
        }

        _next = (int)Math.Min(next + 1, int.MaxValue);
        _shared = [.. sources.Select(_ => new Dictionary<int, int>())];
        _newIds = [.. sources.Select(_ => new Dictionary<int, string>())];
        _left = [.. sources.Select(_ => new HashSet<int>())];
        for (int s = 1; s < sources.Count; s++)
            Force(s, kept[s], kept[0]);
        for (int s = 0; s < sources.Count; s++)
            Fold(s, kept[s]);
        Identities(kept);
        for (int s = 1; s < sources.Count; s++)
            Relationships(s, kept[s]);
    }

    /// <summary>The name in the file of an instance of a source.</summary>
    public int Id(int source, int id)
    {
        var file = _sources[source].Model.File;
        if (id <= file.MaxId)
            return file.IndexOf(id) is >= 0 and var index && _shared[source].TryGetValue(index, out int shared)
                ? shared
                : _offsets[source] + id;
        lock (_fresh)
            return _fresh.TryGetValue((source, id), out int fresh) ? fresh : _fresh[(source, id)] = _next++;
    }

    /// <summary>Whether an instance is written; one that is shared with an earlier source, or has nothing left to say, is not.</summary>
    public bool Writes(int source, int index) => !_shared[source].ContainsKey(index) && !_left[source].Contains(index);

    /// <summary>The GlobalId an instance gets because another source uses its own; null when it keeps it.</summary>
    public string? NewGlobalId(int source, int index) => _newIds[source].GetValueOrDefault(index);

    /// <summary>Whether an instance is one with an instance of an earlier source.</summary>
    public bool IsShared(int source, int index) => _shared[source].ContainsKey(index);

    /// <summary>Whether an instance is left to an earlier source, which says the same or has the say.</summary>
    public bool IsLeft(int source, int index) => _left[source].Contains(index);

    /// <summary>Whether a source shares instances within itself or with earlier ones.</summary>
    public bool HasShared(int source) => _shared[source].Count + _newIds[source].Count > 0;

    /// <summary>Contexts of later sources that the first project must name, by their names in the file.</summary>
    public IReadOnlyList<int> Contexts => _contexts;

    // What a later source shares with the first must be written by the first.
    private void Force(int s, Func<int, bool> kept, Func<int, bool> written)
    {
        var (first, model) = (_sources[0].Model, _sources[s].Model);
        int project = _sources[0].Structure.Project;
        foreach (int p in model.OfType("IfcProject").Where(kept))
            if (project >= 0)
                _shared[s][p] = first.File.Id(project);
        foreach (int units in model.OfType("IfcUnitAssignment").Where(kept))
            if (_sources[0].Units.Assignment >= 0)
                _shared[s][units] = first.File.Id(_sources[0].Units.Assignment);
        foreach (
            int context in model
                .OfType("IfcGeometricRepresentationContext")
                .Where(c => kept(c) && !model.Is(c, "IfcGeometricRepresentationSubContext"))
        )
        {
            int twin = first
                .OfType("IfcGeometricRepresentationContext")
                .FirstOrDefault(
                    c =>
                        written(c)
                        && !first.Is(c, "IfcGeometricRepresentationSubContext")
                        && first.Text(c, "ContextType") == model.Text(context, "ContextType"),
                    -1
                );
            if (twin >= 0)
                _shared[s][context] = first.File.Id(twin);
            else
                _contexts.Add(Id(s, model.File.Id(context)));
            foreach (
                int sub in model
                    .OfType("IfcGeometricRepresentationSubContext")
                    .Where(c => kept(c) && model.Ref(c, "ParentContext") == context)
            )
            {
                int same =
                    twin < 0
                        ? -1
                        : first
                            .OfType("IfcGeometricRepresentationSubContext")
                            .FirstOrDefault(
                                c =>
                                    written(c)
                                    && first.Ref(c, "ParentContext") == twin
                                    && first.Text(c, "ContextIdentifier") == model.Text(sub, "ContextIdentifier")
                                    && first.Get(c, "TargetView").Enumeration
                                        == model.Get(sub, "TargetView").Enumeration,
                                -1
                            );
                if (same >= 0)
                    _shared[s][sub] = first.File.Id(same);
            }
        }

        foreach (int conversion in model.OfType("IfcCoordinateOperation").Where(kept))
            if (IsShared(s, model.Ref(conversion, "SourceCRS")) && first.OfType("IfcCoordinateOperation").Any(written))
                _left[s].Add(conversion);
    }

    private void Fold(int s, Func<int, bool> kept)
    {
        var model = _sources[s].Model;
        foreach (int index in model.OfType(e => Alike.Contains(e.Name)).Where(kept))
            Key(s, index, 0);
    }

    // The name in the file of an instance that may be shared.
    private int Key(int s, int index, int depth)
    {
        var model = _sources[s].Model;
        int own = Id(s, model.File.Id(index));
        if (
            _shared[s].ContainsKey(index)
            || depth > 20
            || model.Entity(index) is not { } entity
            || !Alike.Contains(entity.Name)
        )
            return own;
        string key =
            entity.Keyword
            + Mapped(model.Record(index).Raw, id =>
                model.File.IndexOf(id) is >= 0 and var target ? Key(s, target, depth + 1) : Id(s, id)
            );
        if (_known.TryGetValue(key, out int known))
        {
            if (known != own)
                _shared[s][index] = known;
            return known;
        }

        return _known[key] = own;
    }

    // Two sources with one GlobalId: the same site, building or storey is shared; anything else gets a new one.
    private void Identities(IReadOnlyList<Func<int, bool>> kept)
    {
        var seen = new Dictionary<string, (int Source, int Index)>(StringComparer.Ordinal);
        for (int s = 0; s < _sources.Count; s++)
        {
            var model = _sources[s].Model;
            foreach (int root in model.OfType("IfcRoot").Where(kept[s]))
            {
                if (_shared[s].ContainsKey(root))
                    continue;
                string id = model.GlobalId(root);
                if (seen.TryAdd(id, (s, root)) || seen[id].Source == s)
                    continue;
                var (other, twin) = seen[id];
                if (
                    model.Is(root, "IfcSpatialStructureElement")
                    && !model.Is(root, "IfcSpace")
                    && _sources[other].Model.ClassName(twin) == model.ClassName(root)
                )
                {
                    _shared[s][root] = Id(other, _sources[other].Model.File.Id(twin));
                    continue;
                }

                _newIds[s][root] = GlobalIds.Derived(id, s.ToString(CultureInfo.InvariantCulture));
            }
        }
    }

    // A relationship whose related ends are all shared says what the first source says already.
    private void Relationships(int s, Func<int, bool> kept)
    {
        var model = _sources[s].Model;
        foreach (int relationship in model.OfType("IfcRelAggregates").Where(kept))
            if (
                IsShared(s, model.Ref(relationship, "RelatingObject"))
                && model.Refs(relationship, "RelatedObjects").All(o => IsShared(s, o))
            )
                _left[s].Add(relationship);
    }

    /// <summary>Parameter bytes as text with every reference renamed.</summary>
    internal static string Mapped(ReadOnlySpan<byte> raw, Func<int, int> name)
    {
        var text = new StringBuilder(raw.Length + 16);
        int done = 0;
        for (int at = 0; StepReferences.Next(raw, ref at, out int id, out int start); )
        {
            text.Append(Encoding.Latin1.GetString(raw[done..start]))
                .Append('#')
                .Append(name(id).ToString(CultureInfo.InvariantCulture));
            done = at;
        }

        return text.Append(Encoding.Latin1.GetString(raw[done..])).ToString();
    }
}

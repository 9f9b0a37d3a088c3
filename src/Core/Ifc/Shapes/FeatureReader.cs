using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>What is cut out of elements (IfcRelVoidsElement: openings and recesses) and put onto them (IfcRelProjectsElement).</summary>
internal sealed class FeatureReader(
    IfcModel model,
    IfcRelations relations,
    IfcPlacements placements,
    ProfileReader profiles,
    BodyReader bodies
)
{
    private const int MaxDepth = 10;

    /// <summary>The openings of a product in its own frame. What cannot be shaped is a problem.</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    /// <param name="world">From the product's frame into the world, metres.</param>
    /// <param name="problems">Takes a sentence for what cannot be shaped.</param>
    public List<Body> Openings(int product, Frame world, List<string> problems)
    {
        var cut = Bodies(relations.Openings[product], "Opening", "cut", world, problems);
        // A decomposed wall carries its openings on the whole; they cut the parts.
        if (
            relations.Whole.First(product) is >= 0 and var whole
            && model.Is(whole, "IfcElement")
            && Representations.Body(model, whole) < 0
        )
            cut.AddRange(Bodies(relations.Openings[whole], "Opening", "cut", world, problems));
        return cut;
    }

    /// <summary>The projections of a product in its own frame.</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    /// <param name="world">From the product's frame into the world, metres.</param>
    /// <param name="problems">Takes a sentence for what cannot be shaped.</param>
    public List<Body> Projections(int product, Frame world, List<string> problems) =>
        Bodies(relations.Projections[product], "Projection", "added", world, problems);

    /// <summary>The pieces with the projections united to the first piece that each touches, or beside them where none does.</summary>
    /// <param name="parts">The pieces.</param>
    /// <param name="projections">In the same frame.</param>
    /// <param name="colour">The colour of pieces that have none.</param>
    /// <param name="problems">Takes a sentence for what cannot be united.</param>
    public static List<ShapePart> Unite(
        List<ShapePart> parts,
        List<Body> projections,
        Colour colour,
        List<string> problems
    )
    {
        foreach (var projection in projections)
        {
            var added = projection.Mesh;
            int on = parts.FindIndex(p => p.Mesh.Map(p.Frame).Bounds().Touches(added.Bounds(), 1e-6));
            try
            {
                if (on >= 0)
                    parts[on] = new ShapePart(
                        Solids.Unite(parts[on].Mesh.Map(parts[on].Frame), added),
                        Frame.Identity,
                        parts[on].Colour,
                        -1
                    );
                else
                    parts.Add(new ShapePart(added, Frame.Identity, colour, -1));
            }
            catch (ShapeException e)
            {
                problems.Add($"A projection is beside its element, not united with it: {e.Message}");
                parts.Add(new ShapePart(added, Frame.Identity, colour, -1));
            }
        }

        return parts;
    }

    private List<Body> Bodies(ReadOnlySpan<int> features, string word, string done, Frame world, List<string> problems)
    {
        var read = new List<Body>();
        foreach (int feature in features)
        {
            int representation = Representations.Body(model, feature);
            if (representation < 0)
                continue;
            try
            {
                var frame = world.Inverse().Compose(placements.Product(feature));
                foreach (int item in model.Refs(representation, "Items"))
                    Add(item, frame, read, 0);
            }
            catch (Exception e) when (e is ShapeException or InvalidOperationException)
            {
                problems.Add($"{word} {model.GlobalId(feature)} was not {done}: {e.Message}");
            }
        }

        return read;
    }

    private void Add(int item, Frame frame, List<Body> read, int depth)
    {
        WorkBudget.Spend(Representations.ItemCost);
        if (!model.Is(item, "IfcMappedItem"))
        {
            foreach (var body in bodies.Read(item))
                read.Add(body.Map(frame));
            return;
        }

        if (depth > MaxDepth)
            throw new ShapeException("A mapped item refers to itself.");
        int source = model.Ref(item, "MappingSource");
        var target = frame.Compose(profiles.Mapping(item));
        foreach (int inner in model.Refs(model.Ref(source, "MappedRepresentation"), "Items"))
            Add(inner, target, read, depth + 1);
    }
}

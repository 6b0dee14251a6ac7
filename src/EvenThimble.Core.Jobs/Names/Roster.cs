using System.Collections.Immutable;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Names;

/// <summary>Names a person within a roster; never given twice.</summary>
public readonly record struct PersonId(int Value);

/// <summary>One person of a roster.</summary>
/// <param name="Id">Its name within the roster.</param>
/// <param name="Values">What stands in each field of the roster, in the order of the fields.</param>
public sealed record Person(PersonId Id, ImmutableArray<string> Values)
{
    /// <summary>No person has more garments.</summary>
    public const int MostGarments = 999;

    /// <summary>How many garments of this person are sewn.</summary>
    public int Quantity { get; init; } = 1;

    /// <summary>On what, such as "shirt M"; empty: not said.</summary>
    public string Garment { get; init; } = string.Empty;

    /// <summary>Equal when all that is known is.</summary>
    public bool Equals(Person? other) => other is not null && Id == other.Id && Quantity == other.Quantity && Garment == other.Garment && Values.AsSpan().SequenceEqual(other.Values.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Id, Quantity, Garment, Values.IsEmpty ? null : Values[0]);
}

/// <summary>A list of names, with fields.</summary>
/// <param name="Name">As the user reads it.</param>
/// <param name="Fields">What is known of each person, such as "given" and "family"; each once.</param>
/// <param name="People">In the order that they are sewn.</param>
public sealed record Roster(string Name, ImmutableArray<string> Fields, ImmutableArray<Person> People)
{
    /// <summary>No roster has more people.</summary>
    public const int MostPeople = 2_000;

    /// <summary>No roster has more fields.</summary>
    public const int MostFields = 20;

    /// <summary>No value is longer, characters.</summary>
    public const int LongestValue = 120;

    /// <summary>The number that the next person gets.</summary>
    public int NextPerson { get; init; } = 1;

    /// <summary>How many garments are sewn in all.</summary>
    public int Garments => People.Sum(p => p.Quantity);

    /// <summary>A roster with nobody in it yet.</summary>
    public static Roster New(string name, params ImmutableArray<string> fields) => new(name, fields, []);

    /// <summary>What stands in a field of a person; empty where the roster has no such field.</summary>
    public string ValueOf(Person person, string field) => FieldNumber(field) is >= 0 and var n && n < person.Values.Length ? person.Values[n] : string.Empty;

    /// <summary>The number of a field, whatever the case of its letters; -1 where there is none.</summary>
    public int FieldNumber(string field)
    {
        for (var n = 0; n < Fields.Length; n++)
            if (Fields[n].Equals(field, StringComparison.OrdinalIgnoreCase))
                return n;
        return -1;
    }

    /// <summary>The same with one more person at its end.</summary>
    public Roster Adding(IEnumerable<string> values, int quantity = 1, string garment = "") => Inserting(People.Length, values, quantity, garment);

    /// <summary>The same with one more person before the one of a number, from 0.</summary>
    /// <exception cref="EditRefusedException">It has no room.</exception>
    public Roster Inserting(int at, IEnumerable<string> values, int quantity = 1, string garment = "")
    {
        if (People.Length >= MostPeople) throw new EditRefusedException($"A roster has at most {MostPeople:N0} people.");
        var typed = values.Take(Fields.Length).Select(Value).ToList();
        return this with
        {
            People = People.Insert(Math.Clamp(at, 0, People.Length), new(new(NextPerson), [.. typed, .. Enumerable.Repeat(string.Empty, Fields.Length - typed.Count)]) { Quantity = Garment(quantity), Garment = Value(garment) }),
            NextPerson = NextPerson + 1,
        };
    }

    /// <summary>The same with something changed of a person.</summary>
    public Roster With(PersonId person, Func<Person, Person> change) => this with { People = [.. People.Select(p => p.Id == person ? change(p) : p)] };

    /// <summary>The same with another value in a field of a person.</summary>
    public Roster With(PersonId person, int field, string value) => With(person, p => p with { Values = p.Values.SetItem(field, Value(value)) });

    /// <summary>The same without some people.</summary>
    public Roster Without(IReadOnlySet<PersonId> people) => this with { People = People.RemoveAll(p => people.Contains(p.Id)) };

    /// <summary>The same with a person at another place, from 0.</summary>
    public Roster Moving(PersonId person, int to)
    {
        var at = People.ToList().FindIndex(p => p.Id == person);
        return at < 0 ? this : this with { People = People.RemoveAt(at).Insert(Math.Clamp(to, 0, People.Length - 1), People[at]) };
    }

    /// <summary>The same in the order of a field, as people of any tongue would look for it.</summary>
    public Roster SortedBy(int field) => this with { People = [.. People.OrderBy(p => p.Values[field], StringComparer.InvariantCultureIgnoreCase)] };

    /// <summary>The same with one more field.</summary>
    /// <exception cref="EditRefusedException">It has that field, or no room for it.</exception>
    public Roster WithField(string field)
    {
        var name = FieldNamed(field);
        if (FieldNumber(name) >= 0) throw new EditRefusedException($"There is a field “{name}” already.");
        if (Fields.Length >= MostFields) throw new EditRefusedException($"A roster has at most {MostFields} fields.");
        return this with { Fields = Fields.Add(name), People = [.. People.Select(p => p with { Values = p.Values.Add(string.Empty) })] };
    }

    /// <summary>The same with a field called otherwise.</summary>
    /// <exception cref="EditRefusedException">Another has that name.</exception>
    public Roster RenamingField(int field, string to)
    {
        var name = FieldNamed(to);
        if (FieldNumber(name) is >= 0 and var other && other != field) throw new EditRefusedException($"There is a field “{name}” already.");
        return this with { Fields = Fields.SetItem(field, name) };
    }

    /// <summary>The same without a field and what stood in it.</summary>
    /// <exception cref="EditRefusedException">It is the only one.</exception>
    public Roster WithoutField(int field) => Fields.Length == 1 ? throw new EditRefusedException("A roster has one field at least.")
        : this with { Fields = Fields.RemoveAt(field), People = [.. People.Select(p => p with { Values = p.Values.RemoveAt(field) })] };

    /// <summary>Refuses what cannot be a roster.</summary>
    /// <exception cref="EditRefusedException">With the reason.</exception>
    public void Check()
    {
        Must(Name.Length > 0 && Name == Titles.Clean(Name), "A roster needs a name.");
        Must(Fields.Length is > 0 and <= MostFields && Fields.All(f => f == FieldNamed(f)) && Fields.Distinct(StringComparer.OrdinalIgnoreCase).Count() == Fields.Length, "A roster has fields that cannot be.");
        Must(People.Length <= MostPeople && People.All(p => p.Values.Length == Fields.Length && p.Values.All(v => v == Value(v)) && p.Quantity is > 0 and <= Person.MostGarments && p.Garment == Value(p.Garment) && p.Id.Value > 0 && p.Id.Value < NextPerson), "A roster has a person that cannot be.");
        Must(People.Select(p => p.Id).Distinct().Count() == People.Length, "A roster has one person twice.");

        static void Must(bool holds, string sentence)
        {
            if (!holds) throw new EditRefusedException(sentence);
        }
    }

    /// <summary>Equal when everybody in it is.</summary>
    public bool Equals(Roster? other) => other is not null && Name == other.Name && NextPerson == other.NextPerson && Fields.AsSpan().SequenceEqual(other.Fields.AsSpan()) && People.AsSpan().SequenceEqual(other.People.AsSpan());

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Name, Fields.Length, People.Length);

    /// <summary>What was typed as a value: characters that can be shown, spaces as they were typed.</summary>
    public static string Value(string? typed)
    {
        var kept = new string([.. (typed ?? string.Empty).Where(c => !char.IsControl(c) && c != '\uFFFD' && !(char.GetUnicodeCategory(c) == System.Globalization.UnicodeCategory.Format && c is not ('\u200C' or '\u200D')))]);
        return kept.Length <= LongestValue ? kept : kept[..(char.IsHighSurrogate(kept[LongestValue - 1]) ? LongestValue - 1 : LongestValue)];
    }

    /// <summary>What was typed as the name of a field: without the signs that stand around it in a slot.</summary>
    /// <exception cref="EditRefusedException">Nothing is left.</exception>
    public static string FieldNamed(string typed) => Titles.Clean(typed.Replace('{', ' ').Replace('}', ' ')) is { Length: > 0 } name ? name[..Math.Min(name.Length, 40)].TrimEnd() : throw new EditRefusedException("A field needs a name.");

    private static int Garment(int quantity) => quantity is > 0 and <= Person.MostGarments ? quantity : throw new EditRefusedException($"A person has 1 to {Person.MostGarments} garments.");
}

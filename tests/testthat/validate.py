"""Says where JSON documents depart from a schema, by the jsonschema library.

Arguments: the schema, then pairs of a kind and a file. A line a fault, led by the file.
"""
import json
import sys

import jsonschema


def refuse(word):
    raise ValueError(word + " is no JSON")


with open(sys.argv[1], encoding="utf-8") as file:
    schema = json.load(file)
jsonschema.Draft202012Validator.check_schema(schema)
for kind, path in zip(sys.argv[2::2], sys.argv[3::2]):
    try:
        with open(path, encoding="utf-8") as file:
            document = json.load(file, parse_constant=refuse)
        rule = schema if kind == "brief" else {"$defs": schema["$defs"], "$ref": "#/$defs/" + kind}
        faults = jsonschema.Draft202012Validator(rule).iter_errors(document)
        texts = ["/".join(map(str, fault.absolute_path)) + ": " + fault.message[:200] for fault in faults]
    except ValueError as fault:
        texts = [str(fault)]
    for text in texts:
        print(path + " " + text.replace("\n", " "))
